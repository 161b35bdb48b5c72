/** Correcting what the logbook says, and setting it aside: with the reason, and what stood there before. */
import { useState } from 'react';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { FormSheet, TextField, useApiForm } from '../ui/form';
import { Moment } from '../ui/states';
import { clockTime, lapTime } from './Clocked';
import { EventForm, SessionForm } from './forms';
import { floorWords, RunForm } from './RunForm';

type Props =
  | { kind: 'session'; of: Schemas['SessionView']; event: Schemas['EventView'] | undefined }
  | { kind: 'run'; of: Schemas['RunView']; session: number };

export function Amend(props: Props) {
  const [doing, setDoing] = useState<'correct' | 'event' | 'aside' | null>(null);
  const done = () => setDoing(null);
  const what = props.kind === 'run' ? `run ${props.of.number}` : props.of.name;
  if (doing === 'aside') return <Aside {...props} what={what} done={done} />;
  if (doing === 'event' && props.kind === 'session' && props.event)
    return <EventForm of={props.event} done={done} />;
  if (doing === 'correct')
    return props.kind === 'run' ? (
      <RunForm session={props.session} of={props.of} done={done} />
    ) : (
      <SessionForm of={props.of} events={props.event ? [props.event] : []} done={done} />
    );
  return (
    <span className="amend">
      <button type="button" className="quiet" onClick={() => setDoing('correct')}>
        Correct {what}
      </button>
      {props.kind === 'session' && props.event && (
        <button type="button" className="quiet" onClick={() => setDoing('event')}>
          Correct the event
        </button>
      )}
      <button type="button" className="quiet" onClick={() => setDoing('aside')}>
        Remove {what} from results
      </button>
    </span>
  );
}

function Aside({ kind, of, what, done }: Props & { what: string; done: () => void }) {
  const { bench } = useBench();
  const saved = useSaved(done);
  const session = api.useMutation('post', '/api/cars/{car_id}/sessions/{session_id}/aside', saved);
  const run = api.useMutation('post', '/api/cars/{car_id}/runs/{run_id}/aside', saved);
  const car_id = bench.id;
  const form = useApiForm({
    id: 'remove',
    defaults: { why: '' },
    save: kind === 'run' ? run : session,
    send: (body) => {
      if (kind === 'run') run.mutate({ params: { path: { car_id, run_id: of.id } }, body });
      else session.mutate({ params: { path: { car_id, session_id: of.id } }, body });
    },
  });
  return (
    <FormSheet
      of={form}
      title={`Remove ${what} from results`}
      act="Remove from results"
      done={done}
    >
      <p className="hint">
        It is no longer shown or counted{kind === 'session' ? ', nor are its runs' : ''}; the record
        keeps it, with who did it and why.
      </p>
      <div className="cells">
        <TextField of={form} name="why" label="Why it is removed" />
      </div>
    </FormSheet>
  );
}

const FIELDS: Record<string, string> = {
  name: 'name',
  place: 'place',
  starts_on: 'first day',
  ends_on: 'last day',
  lap_length: 'length of a lap',
  note: 'note',
  kind: 'kind',
  starts_at: 'start',
  surface: 'surface',
  air_temperature: 'air',
  track_temperature: 'track',
  driver: 'driver',
  laps: 'laps',
  best_time: 'time',
  times: 'times',
  tyres: 'tyres',
  words: 'words',
  confidence: 'confidence',
  floor: 'floor',
};

/** What was corrected, the newest last: what it was, what it is, who did it and why. */
export function Amended({ of }: { of: Schemas['AmendmentView'][] }) {
  const said = useSaid();
  if (of.length === 0) return null;
  return (
    <details className="amended">
      <summary>
        Corrected {of.length === 1 ? 'once' : `${of.length} times`}, last by {of.at(-1)?.by}
      </summary>
      <ul>
        {of.map((one) => (
          <li key={one.at}>
            {Object.keys(one.before)
              .map(
                (name) =>
                  `${FIELDS[name] ?? name} ${said(name, one.before[name])} → ${said(name, one.after[name])}`,
              )
              .join('; ')}
            . “{one.why}” <Moment at={one.at} by={one.by} />
          </li>
        ))}
      </ul>
    </details>
  );
}

function useSaid() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const times = (value: Record<string, number>) =>
    dictionary.data.clocked
      .filter((one) => value[one.id] !== undefined)
      .map((one) => `${one.label} ${number(one.quantity, value[one.id] ?? 0)}`)
      .join(', ') || 'none';
  const number = (quantity: string, value: number) => {
    if (quantity === 'time') return clockTime(value);
    const shown = dictionary.shown(quantity, bench.profile);
    return `${showValue(value, shown)} ${shown.symbol}`;
  };
  return (name: string, value: unknown): string => {
    if (value === null || value === '') return 'none';
    if (name === 'lap_length') return number('distance', Number(value));
    if (name.endsWith('_temperature')) return number('temperature', Number(value));
    if (name === 'best_time') return lapTime(Number(value));
    if (name === 'times') return times(value as Record<string, number>);
    if (name === 'starts_at') return new Date(value as string).toLocaleString();
    if (name === 'floor')
      return floorWords(value as Schemas['RunView']['floor']) || 'not looked at';
    if (name === 'words')
      return (value as Schemas['WordsView'][]).map((one) => `“${one.text}”`).join(' ') || 'none';
    return typeof value === 'string' ? `“${value}”` : JSON.stringify(value);
  };
}
