/** Adding events, sessions and runs: short forms, errors at the field. */
import { api, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useBench, useSaved } from '../bench/bench';
import { FormSheet, SelectField, TextField, useApiForm } from '../ui/form';
import { Notice } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';

const today = () => new Date().toISOString().slice(0, 10);

/** A new event, or one of the team's to be corrected. */
export function EventForm({ of, done }: { of?: Schemas['EventView']; done: () => void }) {
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/events', saved);
  const correct = api.useMutation('patch', '/api/events/{event_id}', saved);
  const form = useApiForm({
    id: 'event',
    defaults: {
      name: of?.name ?? '',
      place: of?.place ?? '',
      starts_on: of?.starts_on ?? today(),
      ends_on: of?.ends_on ?? today(),
      lap: of?.lap_length ? `${of.lap_length / 1000}` : '',
      why: '',
    },
    save: of ? correct : add,
    version: of?.version,
    send: ({ why, ...typed }, _, header) => {
      const body = { ...typed, note: of?.note ?? '' };
      if (of)
        correct.mutate({ params: { path: { event_id: of.id }, header }, body: { ...body, why } });
      else add.mutate({ body });
    },
  });
  return (
    <FormSheet
      of={form}
      title={of ? `Correct ${of.name}` : 'Add an event'}
      act={of ? 'Correct it' : 'Add the event'}
      done={done}
    >
      <div className="cells">
        <TextField of={form} name="name" label="Name" />
        <TextField of={form} name="place" label="Place" />
        <TextField of={form} name="starts_on" label="First day" type="date" />
        <TextField of={form} name="ends_on" label="Last day" type="date" />
        <TextField of={form} name="lap" label="Length of a lap" unit="km" />
        {of && <TextField of={form} name="why" label={WHY} />}
      </div>
    </FormSheet>
  );
}

/** The reason of a correction: the record keeps what stood there before. */
export const WHY = 'Why it is corrected';

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
  const shown = dictionary.shown('temperature', bench.profile);
  const degrees = (kelvin: number | null | undefined) =>
    typeof kelvin === 'number' ? showPrecise(kelvin, shown) : '';
  const saved = useSaved(done);
  const add = api.useMutation('post', '/api/cars/{car_id}/sessions', saved);
  const correct = api.useMutation('patch', '/api/cars/{car_id}/sessions/{session_id}', saved);
  const form = useApiForm({
    id: 'session',
    defaults: {
      event: String(of?.event_id ?? events.at(-1)?.id ?? 0),
      name: of?.name ?? '',
      kind: of?.kind ?? kinds[0] ?? '',
      starts_at: of ? local(of.starts_at) : `${today()}T09:00`,
      surface: of?.surface ?? '',
      air: degrees(of?.air_temperature),
      track: degrees(of?.track_temperature),
      why: '',
    },
    save: of ? correct : add,
    version: of?.version,
    send: ({ event, why, air, track, ...typed }, _, header) => {
      const body = {
        ...typed,
        starts_at: new Date(typed.starts_at).toISOString(),
        air: air || null,
        track: track || null,
        note: of?.note ?? '',
      };
      const car_id = bench.id;
      if (of)
        correct.mutate({
          params: { path: { car_id, session_id: of.id }, header },
          body: { ...body, why },
        });
      else add.mutate({ params: { path: { car_id } }, body: { ...body, event_id: Number(event) } });
    },
  });
  if (events.length === 0) return <NoEvent add={addEvent} />;
  return (
    <FormSheet
      of={form}
      title={of ? `Correct ${of.name}` : 'Add a session'}
      act={of ? 'Correct it' : 'Add the session'}
      done={done}
    >
      <div className="cells">
        {!of && (
          <SelectField
            of={form}
            name="event"
            label="Event"
            options={events.map((one) => [String(one.id), `${one.name}, ${one.place}`])}
          />
        )}
        <TextField of={form} name="name" label="Name" hint="Practice 2" />
        <SelectField of={form} name="kind" label="Kind" options={kinds.map((one) => [one, one])} />
        <TextField of={form} name="starts_at" label="Starts" type="datetime-local" />
        <TextField of={form} name="surface" label="Surface" hint="dry, green" />
        <TextField of={form} name="air" label={`Air, ${shown.symbol}`} />
        <TextField of={form} name="track" label={`Track, ${shown.symbol}`} />
        {of && <TextField of={form} name="why" label={WHY} />}
      </div>
    </FormSheet>
  );
}

function NoEvent({ add }: { add: (() => void) | undefined }) {
  return (
    <Notice tone="plain">
      A session belongs to an event, and there is none yet.{' '}
      <button type="button" className="quiet" onClick={add}>
        Add an event first
      </button>
    </Notice>
  );
}
