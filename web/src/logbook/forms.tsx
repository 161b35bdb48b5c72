/** Adding events, sessions and runs: short forms, errors at the field. */
import { useState } from 'react';
import { api, type Problem, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useBench, useSaved } from '../bench/bench';
import { Choose, Field, FormSheet } from '../ui/fields';
import { Notice } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';

const today = () => new Date().toISOString().slice(0, 10);

/** A new event, or one of the team's to be corrected. */
export function EventForm({ of, done }: { of?: Schemas['EventView']; done: () => void }) {
  const [name, setName] = useState(of?.name ?? '');
  const [place, setPlace] = useState(of?.place ?? '');
  const [starts, setStarts] = useState(of?.starts_on ?? today());
  const [ends, setEnds] = useState(of?.ends_on ?? today());
  const [lap, setLap] = useState(of?.lap_length ? `${of.lap_length / 1000}` : '');
  const [why, setWhy] = useState('');
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/events', saved);
  const correct = api.useMutation('patch', '/api/events/{event_id}', saved);
  const save = of ? correct : add;
  const send = () => {
    const body = { name, place, starts_on: starts, ends_on: ends, lap, note: of?.note ?? '' };
    if (of) correct.mutate({ params: { path: { event_id: of.id } }, body: { ...body, why } });
    else add.mutate({ body });
  };
  const problem = save.error;
  return (
    <FormSheet
      title={of ? `Correct ${of.name}` : 'Add an event'}
      act={of ? 'Correct it' : 'Add the event'}
      save={save}
      send={send}
      done={done}
    >
      <div className="cells">
        <Field
          id="event-name"
          field="name"
          label="Name"
          value={name}
          set={setName}
          problem={problem}
        />
        <Field
          id="event-place"
          field="place"
          label="Place"
          value={place}
          set={setPlace}
          problem={problem}
        />
        <Field
          id="event-starts_on"
          field="starts_on"
          label="First day"
          type="date"
          value={starts}
          set={setStarts}
          problem={problem}
        />
        <Field
          id="event-ends_on"
          field="ends_on"
          label="Last day"
          type="date"
          value={ends}
          set={setEnds}
          problem={problem}
        />
        <Field
          id="event-lap"
          field="lap"
          label="Length of a lap"
          unit="km"
          value={lap}
          set={setLap}
          problem={problem}
        />
        {of && <Why value={why} set={setWhy} problem={problem} />}
      </div>
    </FormSheet>
  );
}

interface WhyProps {
  value: string;
  set: (why: string) => void;
  problem: Problem | null;
  label?: string;
}

/** The reason of a correction: the record keeps what stood there before. */
export function Why({ label = 'Why it is corrected', ...rest }: WhyProps) {
  return <Field id="correct-why" field="why" label={label} {...rest} />;
}

/** A time as its field takes it: of this place, without its zone. */
const local = (at: string) => {
  const moment = new Date(at);
  return new Date(moment.getTime() - 60_000 * moment.getTimezoneOffset())
    .toISOString()
    .slice(0, 16);
};

interface SessionProps {
  /** The one that is corrected. */
  of?: Schemas['SessionView'];
  events: Schemas['EventView'][];
  done: () => void;
  addEvent?: () => void;
}

export function SessionForm({ of, events, done, addEvent }: SessionProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const kinds = dictionary.discipline(bench.discipline).session_kinds;
  const latest = events.at(-1);
  const shown = dictionary.shown('temperature', bench.profile);
  const unit = shown.symbol;
  const degrees = (kelvin: number | null | undefined) =>
    typeof kelvin === 'number' ? showPrecise(kelvin, shown) : '';
  const [event, setEvent] = useState(of?.event_id ?? latest?.id ?? 0);
  const [name, setName] = useState(of?.name ?? '');
  const [kind, setKind] = useState(of?.kind ?? kinds[0] ?? '');
  const [starts, setStarts] = useState(of ? local(of.starts_at) : `${today()}T09:00`);
  const [surface, setSurface] = useState(of?.surface ?? '');
  const [air, setAir] = useState(degrees(of?.air_temperature));
  const [track, setTrack] = useState(degrees(of?.track_temperature));
  const [why, setWhy] = useState('');
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/cars/{car_id}/sessions', saved);
  const correct = api.useMutation('patch', '/api/cars/{car_id}/sessions/{session_id}', saved);
  const save = of ? correct : add;
  const send = () => {
    const body = {
      name,
      kind,
      starts_at: new Date(starts).toISOString(),
      surface,
      air: air || null,
      track: track || null,
      note: of?.note ?? '',
    };
    const car_id = bench.id;
    if (of)
      correct.mutate({ params: { path: { car_id, session_id: of.id } }, body: { ...body, why } });
    else add.mutate({ params: { path: { car_id } }, body: { ...body, event_id: event } });
  };
  const problem = save.error;
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
    <FormSheet
      title={of ? `Correct ${of.name}` : 'Add a session'}
      act={of ? 'Correct it' : 'Add the session'}
      save={save}
      send={send}
      done={done}
    >
      <div className="cells">
        {!of && (
          <Choose
            id="session-event"
            label="Event"
            value={String(event)}
            set={(id) => setEvent(Number(id))}
            options={events.map((one) => [String(one.id), `${one.name}, ${one.place}`])}
          />
        )}
        <Field
          id="session-name"
          field="name"
          label="Name"
          value={name}
          set={setName}
          problem={problem}
          hint="Practice 2"
        />
        <Choose
          id="session-kind"
          label="Kind"
          value={kind}
          set={setKind}
          options={kinds.map((one) => [one, one])}
        />
        <Field
          id="session-starts_at"
          field="starts_at"
          label="Starts"
          type="datetime-local"
          value={starts}
          set={setStarts}
          problem={problem}
        />
        <Field
          id="session-surface"
          field="surface"
          label="Surface"
          value={surface}
          set={setSurface}
          problem={problem}
          hint="dry, green"
        />
        <Field
          id="session-air"
          field="air"
          label={`Air, ${unit}`}
          value={air}
          set={setAir}
          problem={problem}
        />
        <Field
          id="session-track"
          field="track"
          label={`Track, ${unit}`}
          value={track}
          set={setTrack}
          problem={problem}
        />
        {of && <Why value={why} set={setWhy} problem={problem} />}
      </div>
    </FormSheet>
  );
}
