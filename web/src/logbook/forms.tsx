/** Adding events, sessions and runs: short forms, errors at the field. */
import { useState } from 'react';
import { api, type Schemas } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { Choose, Field, FormSheet } from '../ui/fields';
import { Notice } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';

const today = () => new Date().toISOString().slice(0, 10);

export function AddEvent({ done }: { done: () => void }) {
  const [name, setName] = useState('');
  const [place, setPlace] = useState('');
  const [starts, setStarts] = useState(today());
  const [ends, setEnds] = useState(today());
  const [lap, setLap] = useState('');
  const save = api.useMutation('post', '/api/events', useSaved(done));
  const send = () => save.mutate({ body: { name, place, starts_on: starts, ends_on: ends, lap } });
  const problem = save.error;
  return (
    <FormSheet title="Add an event" act="Add the event" save={save} send={send} done={done}>
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
      </div>
    </FormSheet>
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
  const save = api.useMutation('post', '/api/cars/{car_id}/sessions', useSaved(done));
  const send = () =>
    save.mutate({
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
    });
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
    <FormSheet title="Add a session" act="Add the session" save={save} send={send} done={done}>
      <div className="cells">
        <Choose
          id="session-event"
          label="Event"
          value={String(event)}
          set={(id) => setEvent(Number(id))}
          options={events.map((one) => [String(one.id), `${one.name}, ${one.place}`])}
        />
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
      </div>
    </FormSheet>
  );
}
