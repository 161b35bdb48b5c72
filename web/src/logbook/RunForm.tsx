/** Logging a run: who drove, on what, and what the clock wrote; a time slip may be pasted. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Against } from '../bench/Against';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { FormSheet, SelectField, TextField, useApiForm } from '../ui/form';
import { Notice } from '../ui/marks';
import { typedTime } from './Clocked';
import { WHY } from './forms';

type Floor = Schemas['RunView']['floor'];
const AXLES = ['front', 'rear'] as const;

/** How the floor was found: `free`, or each axle by its name where they differ. */
export function floorWords(floor: Floor): string {
  const { front, rear } = floor;
  if (front && front === rear) return front;
  return AXLES.flatMap((axle) => (floor[axle] ? [`${axle} ${floor[axle]}`] : [])).join(', ');
}

interface Props {
  session: number;
  /** The one that is corrected. */
  of?: Schemas['RunView'];
  done: () => void;
}

const LOOKED_AT = [
  ['', 'not looked at'],
  ['free', 'free'],
  ['touched', 'touched'],
] as const;

/** The values of a run and how they are sent: a new one, or one that is corrected. */
function useRunForm({ session, of, done }: Props) {
  const { bench } = useBench();
  const { clocked, marks } = useClocked();
  const typed = useTypedTimes(of);
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/cars/{car_id}/sessions/{session_id}/runs', saved);
  const correct = api.useMutation('patch', '/api/cars/{car_id}/runs/{run_id}', saved);
  return useApiForm({
    id: `run-${session}`,
    defaults: {
      driver: of?.driver ?? '',
      laps: of?.laps ? String(of.laps) : '',
      best_time: of?.best_time && !marks ? typedTime(of.best_time) : '',
      tyres: of?.tyres ?? '',
      note: of?.note ?? '',
      times: typed,
      floor: { front: of?.floor.front ?? '', rear: of?.floor.rear ?? '' },
      why: '',
      released_why: '',
    },
    save: of ? correct : add,
    version: of?.version,
    send: ({ laps, best_time, times, floor, why, released_why, ...texts }, _, header) => {
      const body = {
        ...texts,
        laps: laps ? Number(laps) : null,
        best_time: best_time || null,
        times: Object.fromEntries(clocked.map((one) => [one.id, times[one.id] ?? ''])),
        floor: Object.fromEntries(Object.entries(floor).filter(([, found]) => found)) as Floor,
      };
      const car_id = bench.id;
      if (of)
        correct.mutate({
          params: { path: { car_id, run_id: of.id }, header },
          body: { ...body, why },
        });
      else
        add.mutate({
          params: { path: { car_id, session_id: session } },
          body: { ...body, released_why },
        });
    },
  });
}

/** What is clocked of such a car; a clocked run from rest has its time at the last of its marks. */
function useClocked() {
  const { bench } = useBench();
  const clocked = useDictionary().data.clocked.filter((one) =>
    one.disciplines.includes(bench.discipline),
  );
  return { clocked, marks: clocked.some((one) => one.distance > 0) };
}

/** The times of a run as they are typed; empty where it has none. */
function useTypedTimes(of: Schemas['RunView'] | undefined): Record<string, string> {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { clocked } = useClocked();
  const typed = ({ id, quantity }: (typeof clocked)[number]) => {
    const value = of?.clocked.find((one) => one.id === id)?.value;
    if (value === undefined) return '';
    return quantity === 'time'
      ? typedTime(value)
      : showPrecise(value, dictionary.shown(quantity, bench.profile));
  };
  return Object.fromEntries(clocked.map((one) => [one.id, typed(one)]));
}

export function RunForm(props: Props) {
  const { session, of, done } = props;
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { clocked, marks } = useClocked();
  const form = useRunForm(props);
  const unitOf = (quantity: string) =>
    quantity === 'time' ? 's' : dictionary.shown(quantity, bench.profile).symbol;
  return (
    <FormSheet
      of={form}
      title={of ? `Correct run ${of.number}` : `Log a run on revision ${bench.revision}`}
      act={of ? 'Correct it' : 'Log the run'}
      done={done}
    >
      {marks && (
        <PasteSlip
          session={session}
          put={(read) => {
            for (const [id, text] of Object.entries(read))
              form.values.setValue(`times.${id}`, text);
          }}
        />
      )}
      <div className="cells">
        <TextField of={form} name="driver" label="Driver" />
        {!marks && <TextField of={form} name="laps" label="Laps" type="number" />}
        {!marks && <TextField of={form} name="best_time" label="Best lap" hint="1:32.45" />}
        {clocked.map((one) => (
          <TextField
            key={one.id}
            of={form}
            name={`times.${one.id}`}
            number={one.id}
            label={one.label}
            unit={unitOf(one.quantity)}
          />
        ))}
        <TextField of={form} name="tyres" label="Tyres" />
        <TextField of={form} name="note" label="Note" />
        {AXLES.map((axle) => (
          <SelectField
            key={axle}
            of={form}
            name={`floor.${axle}`}
            label={`Floor, ${axle}`}
            options={LOOKED_AT}
          />
        ))}
        {of && <TextField of={form} name="why" label={WHY} />}
      </div>
      {bench.not_ready.length > 0 && !of && <ReleaseGate of={form} />}
    </FormSheet>
  );
}

/** What stands against a run, and who may let the car out all the same. */
function ReleaseGate({ of }: { of: ReturnType<typeof useRunForm> }) {
  const mayRelease = useMay('release');
  return (
    <div className="release-gate" role="group" aria-label="Not ready to run">
      <Notice>
        <b>This car is not ready to run.</b>
        <Against beside />
      </Notice>
      {mayRelease ? (
        <TextField of={of} name="released_why" label="Let it out all the same, because" />
      ) : (
        <p className="hint">An engineer of the team may let it out, with a reason.</p>
      )}
    </div>
  );
}

/** A time slip as text or CSV: what it says goes into the fields, to be looked at before it is logged. */
function PasteSlip({
  session,
  put,
}: {
  session: number;
  put: (read: Record<string, string>) => void;
}) {
  const { bench } = useBench();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const read = api.useMutation('post', '/api/cars/{car_id}/time-slip', {
    onSuccess: (found) => {
      put(found.times);
      setOpen(false);
    },
  });
  const id = `slip-${session}`;
  if (!open)
    return (
      <button type="button" className="quiet" onClick={() => setOpen(true)}>
        Paste a time slip
      </button>
    );
  return (
    <div className="paste-slip">
      <label htmlFor={id}>Time slip, a name and its value a line, or CSV</label>
      <textarea
        id={id}
        rows={6}
        value={text}
        placeholder={'60 ft 1.352\n330 ft 3.97\n1/8 6.12\nmph 111.6'}
        onChange={(event) => setText(event.target.value)}
        aria-describedby={`${id}-said`}
      />
      <span id={`${id}-said`} className="field-said" role={read.error ? 'alert' : undefined}>
        {read.error?.detail}
      </span>
      <Button
        variant="outline-dark"
        disabled={read.isPending}
        onClick={() => read.mutate({ params: { path: { car_id: bench.id } }, body: { text } })}
      >
        Read it
      </Button>
    </div>
  );
}
