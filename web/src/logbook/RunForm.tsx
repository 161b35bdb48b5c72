/** Logging a run: who drove, on what, and what the clock wrote; a time slip may be pasted. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Against } from '../bench/Against';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Field, FormSheet } from '../ui/fields';
import { Notice } from '../ui/marks';
import { typedTime } from './Clocked';
import { Why } from './forms';

type Floor = Schemas['RunView']['floor'];
const AXLES = ['front', 'rear'] as const;

/** How the floor was found: `free`, or each axle by its name where they differ. */
export function floorWords(floor: Floor): string {
  const { front, rear } = floor;
  if (front && front === rear) return front;
  return AXLES.flatMap((axle) => (floor[axle] ? [`${axle} ${floor[axle]}`] : [])).join(', ');
}

function looked(floor: Floor, axle: string, found: string): Floor {
  const others = Object.entries(floor).filter(([one]) => one !== axle);
  const here = found === 'free' || found === 'touched' ? [[axle, found] as const] : [];
  return Object.fromEntries([...others, ...here]);
}

interface Props {
  session: number;
  /** The one that is corrected. */
  of?: Schemas['RunView'];
  done: () => void;
}

export function RunForm({ session, of, done }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const clocked = dictionary.data.clocked.filter((one) =>
    one.disciplines.includes(bench.discipline),
  );
  // a clocked run from rest has its time at the last mark
  const marks = clocked.some((one) => one.distance > 0);
  const [texts, setTexts] = useState({
    driver: of?.driver ?? '',
    laps: of?.laps ? String(of.laps) : '',
    best_time: of?.best_time && !marks ? typedTime(of.best_time) : '',
    tyres: of?.tyres ?? '',
    note: of?.note ?? '',
  });
  const [floor, setFloor] = useState<Floor>(of?.floor ?? {});
  const [why, setWhy] = useState('');
  const [released, setReleased] = useState('');
  const mayRelease = useMay('release');
  const against = bench.not_ready.length > 0 && !of;
  const written = (id: string, quantity: (typeof clocked)[number]['quantity']) => {
    const value = of?.clocked.find((one) => one.id === id)?.value;
    if (value === undefined) return '';
    return quantity === 'time'
      ? typedTime(value)
      : showPrecise(value, dictionary.shown(quantity, bench.profile));
  };
  const [times, setTimes] = useState<Record<string, string>>(
    of ? Object.fromEntries(clocked.map((one) => [one.id, written(one.id, one.quantity)])) : {},
  );
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/cars/{car_id}/sessions/{session_id}/runs', saved);
  const correct = api.useMutation('patch', '/api/cars/{car_id}/runs/{run_id}', saved);
  const save = of ? correct : add;
  const send = () => {
    const body = {
      ...texts,
      laps: texts.laps ? Number(texts.laps) : null,
      best_time: texts.best_time || null,
      times,
      floor,
    };
    const car_id = bench.id;
    if (of) correct.mutate({ params: { path: { car_id, run_id: of.id } }, body: { ...body, why } });
    else
      add.mutate({
        params: { path: { car_id, session_id: session } },
        body: { ...body, released_why: released },
      });
  };
  const field = (name: keyof typeof texts, label: string, more: object = {}) => (
    <Field
      id={`run-${session}-${name}`}
      field={name}
      label={label}
      value={texts[name]}
      set={(value) => setTexts({ ...texts, [name]: value })}
      problem={save.error}
      {...more}
    />
  );
  return (
    <FormSheet
      title={of ? `Correct run ${of.number}` : `Log a run on revision ${bench.revision}`}
      act={of ? 'Correct it' : 'Log the run'}
      save={save}
      send={send}
      done={done}
    >
      {marks && <PasteSlip session={session} put={(read) => setTimes({ ...times, ...read })} />}
      <div className="cells">
        {field('driver', 'Driver')}
        {!marks && field('laps', 'Laps', { type: 'number' })}
        {!marks && field('best_time', 'Best lap', { hint: '1:32.45' })}
        {clocked.map((one) => (
          <Field
            key={one.id}
            id={`run-${session}-${one.id}`}
            field={one.id}
            label={one.label}
            unit={
              one.quantity === 'time' ? 's' : dictionary.shown(one.quantity, bench.profile).symbol
            }
            value={times[one.id] ?? ''}
            set={(value) => setTimes({ ...times, [one.id]: value })}
            problem={save.error}
          />
        ))}
        {field('tyres', 'Tyres')}
        {field('note', 'Note')}
        {AXLES.map((axle) => (
          <div className="cell" key={axle}>
            <label htmlFor={`run-${session}-floor-${axle}`}>Floor, {axle}</label>
            <select
              id={`run-${session}-floor-${axle}`}
              value={floor[axle] ?? ''}
              onChange={(event) => setFloor(looked(floor, axle, event.target.value))}
            >
              <option value="">not looked at</option>
              <option value="free">free</option>
              <option value="touched">touched</option>
            </select>
          </div>
        ))}
        {of && <Why value={why} set={setWhy} problem={save.error} />}
      </div>
      {against && (
        <div className="release-gate" role="group" aria-label="Not ready to run">
          <Notice>
            <b>This car is not ready to run.</b>
            <Against beside />
          </Notice>
          {mayRelease ? (
            <Field
              id={`run-${session}-released_why`}
              field="released_why"
              label="Let it out all the same, because"
              value={released}
              set={setReleased}
              problem={save.error}
            />
          ) : (
            <p className="hint">An engineer of the team may let it out, with a reason.</p>
          )}
        </div>
      )}
    </FormSheet>
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
