/** Adding events, sessions and runs: short forms, errors at the field. */
import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { ask, client, Problem, type Schemas } from '../api/client';
import { useBench } from '../app/bench';
import { Notice } from '../numbers/marks';
import { useDictionary } from '../numbers/vocabulary';
import { useLogAct } from './act';

interface FieldProps {
  id: string;
  label: string;
  value: string;
  set: (value: string) => void;
  problem: Problem | null;
  type?: string;
  hint?: string;
}

function Field({ id, label, value, set, problem, type = 'text', hint }: FieldProps) {
  const key = id.split('-').pop() ?? id;
  const said = problem?.errors.find(
    (one) => one.number === key || one.pointer === `#/${key}`,
  )?.detail;
  return (
    <div className={`cell${said ? ' has-problem' : ''}`}>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        className="text-input"
        type={type}
        value={value}
        placeholder={hint}
        autoComplete="off"
        aria-invalid={said !== undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => set(event.target.value)}
      />
      <span id={`${id}-said`} className="field-said" role={said ? 'alert' : undefined}>
        {said}
      </span>
    </div>
  );
}

interface SheetProps {
  title: string;
  save: { mutate: (input: undefined) => void; error: Error | null; isPending: boolean };
  act: string;
  done: () => void;
  children: ReactNode;
}

function Sheet({ title, save, act, done, children }: SheetProps) {
  return (
    <form
      className="inline-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(undefined);
      }}
    >
      <h2>{title}</h2>
      <div className="cells">{children}</div>
      {save.error && <Notice tone="draft">{save.error.message}</Notice>}
      <div className="form-acts">
        <Button type="submit" variant="dark" disabled={save.isPending}>
          {act}
        </Button>
        <Button variant="link" onClick={done}>
          Leave it
        </Button>
      </div>
    </form>
  );
}

const today = () => new Date().toISOString().slice(0, 10);
const problemOf = (error: Error | null) => (error instanceof Problem ? error : null);

export function AddEvent({ done }: { done: () => void }) {
  const [name, setName] = useState('');
  const [place, setPlace] = useState('');
  const [starts, setStarts] = useState(today());
  const [ends, setEnds] = useState(today());
  const save = useLogAct(
    () =>
      ask(client.POST('/api/events', { body: { name, place, starts_on: starts, ends_on: ends } })),
    done,
  );
  const problem = problemOf(save.error);
  return (
    <Sheet title="Add an event" act="Add the event" save={save} done={done}>
      <Field id="event-name" label="Name" value={name} set={setName} problem={problem} />
      <Field id="event-place" label="Place" value={place} set={setPlace} problem={problem} />
      <Field
        id="event-starts_on"
        label="First day"
        type="date"
        value={starts}
        set={setStarts}
        problem={problem}
      />
      <Field
        id="event-ends_on"
        label="Last day"
        type="date"
        value={ends}
        set={setEnds}
        problem={problem}
      />
    </Sheet>
  );
}

interface SessionProps {
  events: Schemas['EventView'][];
  done: () => void;
  addEvent: () => void;
}

export function AddSession({ events, done, addEvent }: SessionProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const kinds =
    dictionary.data.words.find((one) => one.discipline === bench.discipline)?.session_kinds ?? [];
  const latest = events.at(-1);
  const [event, setEvent] = useState(latest?.id ?? 0);
  const [name, setName] = useState('');
  const [kind, setKind] = useState(kinds[0] ?? '');
  const [starts, setStarts] = useState(`${today()}T09:00`);
  const [surface, setSurface] = useState('');
  const [air, setAir] = useState('');
  const [track, setTrack] = useState('');
  const unit = dictionary.shown('temperature', bench.profile).symbol;
  const save = useLogAct(
    () =>
      ask(
        client.POST('/api/cars/{car_id}/sessions', {
          params: { path: { car_id: bench.id } },
          body: {
            event_id: event,
            name,
            kind,
            starts_at: new Date(starts).toISOString(),
            surface,
            air: air || null,
            track: track || null,
          },
        }),
      ),
    done,
  );
  const problem = problemOf(save.error);
  if (events.length === 0)
    return (
      <Notice tone="plain">
        A session belongs to an event, and there is none yet.{' '}
        <button type="button" className="quiet" onClick={addEvent}>
          Add an event first
        </button>
      </Notice>
    );
  return (
    <Sheet title="Add a session" act="Add the session" save={save} done={done}>
      <div className="cell">
        <label htmlFor="session-event">Event</label>
        <select
          id="session-event"
          value={event}
          onChange={(change) => setEvent(Number(change.target.value))}
        >
          {events.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}, {one.place}
            </option>
          ))}
        </select>
      </div>
      <Field
        id="session-name"
        label="Name"
        value={name}
        set={setName}
        problem={problem}
        hint="Practice 2"
      />
      <div className="cell">
        <label htmlFor="session-kind">Kind</label>
        <select id="session-kind" value={kind} onChange={(change) => setKind(change.target.value)}>
          {kinds.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </div>
      <Field
        id="session-starts_at"
        label="Starts"
        type="datetime-local"
        value={starts}
        set={setStarts}
        problem={problem}
      />
      <Field
        id="session-surface"
        label="Surface"
        value={surface}
        set={setSurface}
        problem={problem}
        hint="dry, green"
      />
      <Field id="session-air" label={`Air, ${unit}`} value={air} set={setAir} problem={problem} />
      <Field
        id="session-track"
        label={`Track, ${unit}`}
        value={track}
        set={setTrack}
        problem={problem}
      />
    </Sheet>
  );
}

export function AddRun({ session, done }: { session: number; done: () => void }) {
  const { bench } = useBench();
  const drag = bench.discipline === 'drag';
  const [driver, setDriver] = useState('');
  const [laps, setLaps] = useState('');
  const [best, setBest] = useState('');
  const [tyres, setTyres] = useState('');
  const [note, setNote] = useState('');
  const save = useLogAct(
    () =>
      ask(
        client.POST('/api/cars/{car_id}/sessions/{session_id}/runs', {
          params: { path: { car_id: bench.id, session_id: session } },
          body: { driver, laps: laps ? Number(laps) : null, best_time: best || null, tyres, note },
        }),
      ),
    done,
  );
  const problem = problemOf(save.error);
  return (
    <Sheet
      title={`Log a run on revision ${bench.revision}`}
      act="Log the run"
      save={save}
      done={done}
    >
      <Field
        id={`run-${session}-driver`}
        label="Driver"
        value={driver}
        set={setDriver}
        problem={problem}
      />
      {!drag && (
        <Field
          id={`run-${session}-laps`}
          label="Laps"
          type="number"
          value={laps}
          set={setLaps}
          problem={problem}
        />
      )}
      <Field
        id={`run-${session}-best_time`}
        label={drag ? 'Elapsed time' : 'Best lap'}
        value={best}
        set={setBest}
        problem={problem}
        hint={drag ? '9.87' : '1:32.45'}
      />
      <Field
        id={`run-${session}-tyres`}
        label="Tyres"
        value={tyres}
        set={setTyres}
        problem={problem}
      />
      <Field id={`run-${session}-note`} label="Note" value={note} set={setNote} problem={problem} />
    </Sheet>
  );
}
