/** Sessions in time, with the changes between them, the driver's words, and each slip's verdict. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { NumberName, Schemas } from '../lib/client';
import { useLogbook } from '../lib/queries';
import { useBench } from '../bench/bench';
import { useMay } from '../lib/me';
import { Empty, Failed, Moment, Waiting } from '../ui/states';
import { StatusMark } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';
import { Clocked, lapTime } from './Clocked';
import { Amend, Amended } from './Amend';
import { EventForm, SessionForm } from './forms';
import { Pictures } from './Pictures';
import { RevisionEntry } from './RevisionEntry';
import { floorWords, RunForm } from './RunForm';
import { RunTable } from './RunTable';
import { Words } from './Words';

type Item =
  | { at: string; session: Schemas['SessionView']; revision?: undefined }
  | { at: string; revision: Schemas['RevisionView']; session?: undefined };

export function Logbook() {
  const { bench } = useBench();
  const [part, setPart] = useState('');
  const found = useLogbook(bench.id, part);
  const [adding, setAdding] = useState<Adding>(null);
  // with a logbook in hand one that could not be asked for again is no reason to close what is being typed
  if (found.isError && !found.data)
    return <Failed error={found.error} again={() => void found.refetch()} />;
  const pages = found.data?.pages ?? [];
  const log = pages[0];
  if (!log) return <Waiting what="Opening the logbook" />;
  const sessions = pages.flatMap((page) => page.sessions);
  const items: Item[] = [
    ...sessions.map((session) => ({ at: session.starts_at, session })),
    ...pages.flatMap((page) => page.revisions.map((revision) => ({ at: revision.at, revision }))),
  ].sort((a, b) => b.at.localeCompare(a.at));
  return (
    <article className="logbook">
      <div className="sheet-head">
        <h1>Logbook</h1>
        <p>Newest first: what ran, what was changed between, and what came of it.</p>
      </div>
      {bench.imported && (
        <p className="hint">
          Up to revision {bench.imported.revision} the record, with the names in it, is as a car
          file tells that {bench.imported.by} brought in, <Moment at={bench.imported.at} />.
        </p>
      )}
      <LogActs
        adding={adding}
        add={setAdding}
        part={part}
        setPart={setPart}
        changed={log.changed}
      />
      {adding === 'event' && (
        <EventForm done={() => setAdding((now) => (now === 'event' ? null : now))} />
      )}
      {adding === 'session' && (
        <SessionForm
          events={log.events}
          done={() => setAdding((now) => (now === 'session' ? null : now))}
          addEvent={() => setAdding('event')}
        />
      )}
      {sessions.length === 0 && !part && (
        <Empty title="No session yet.">
          Add an event, then its first session: from then on every change is booked against one.
        </Empty>
      )}
      <ol className="timeline">
        {items.map((item) =>
          item.session ? (
            <SessionEntry
              key={`s${item.session.id}`}
              session={item.session}
              event={log.events.find((one) => one.id === item.session.event_id)}
            />
          ) : (
            <RevisionEntry key={`r${item.revision.number}`} revision={item.revision} />
          ),
        )}
      </ol>
      {found.hasNextPage && (
        <Button
          variant="outline-dark"
          disabled={found.isFetchingNextPage}
          onClick={() => void found.fetchNextPage()}
        >
          {found.isFetchingNextPage ? 'Fetching older entries …' : 'Older entries'}
        </Button>
      )}
    </article>
  );
}

type Adding = 'event' | 'session' | null;

interface ActsProps {
  adding: Adding;
  add: (what: Adding) => void;
  /** The number whose changes alone are shown; empty for all. */
  part: string;
  setPart: (part: string) => void;
  changed: NumberName[];
}

function LogActs({ adding, add, part, setPart, changed }: ActsProps) {
  const dictionary = useDictionary();
  const mayLog = useMay('log');
  const toggle = (what: Adding) => () => add(adding === what ? null : what);
  return (
    <div className="log-acts">
      {mayLog && (
        <>
          <Button variant="outline-dark" onClick={toggle('session')}>
            Add a session
          </Button>
          <Button variant="outline-dark" onClick={toggle('event')}>
            Add an event
          </Button>
        </>
      )}
      <label>
        Changes of{' '}
        <select value={part} onChange={(event) => setPart(event.target.value)}>
          <option value="">everything</option>
          {changed.map((name) => (
            <option key={name} value={name}>
              {dictionary.entry(name).label.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

function SessionEntry({
  session,
  event,
}: {
  session: Schemas['SessionView'];
  event: Schemas['EventView'] | undefined;
}) {
  const { bench } = useBench();
  const mayLog = useMay('log');
  const [adding, setAdding] = useState<'run' | 'table' | null>(null);
  const dictionary = useDictionary();
  const unit = dictionary.shown('temperature', bench.profile);
  const degrees = (kelvin: number) =>
    `${Math.round(kelvin * unit.factor + unit.offset)} ${unit.symbol}`;
  const conditions = [
    session.surface,
    session.air_temperature !== null && `air ${degrees(session.air_temperature)}`,
    session.track_temperature !== null && `track ${degrees(session.track_temperature)}`,
  ].filter(Boolean);
  return (
    <li className="entry entry-session">
      <div className="entry-when">
        <Moment at={session.starts_at} />
      </div>
      <div className="entry-what">
        <h2>
          {session.name}
          <small>
            {event?.name}, {event?.place}
          </small>
        </h2>
        {conditions.length > 0 && <p className="conditions-line">{conditions.join(' · ')}</p>}
        {event?.note && <p className="note">“{event.note}”</p>}
        {session.runs.length > 0 ? (
          <ul className="runs">
            {session.runs.map((run) => (
              <Run key={run.id} run={run} session={session.id} />
            ))}
          </ul>
        ) : (
          <p className="hint">No run logged.</p>
        )}
        <Amended of={session.amended} />
        {event && <Amended of={event.amended} />}
        {mayLog && !adding && (
          <p className="entry-acts">
            <button type="button" className="quiet" onClick={() => setAdding('run')}>
              Log a run on revision {bench.revision}
            </button>
            <button type="button" className="quiet" onClick={() => setAdding('table')}>
              Runs from a table
            </button>
            <Amend kind="session" of={session} event={event} />
          </p>
        )}
        {adding === 'run' && <RunForm session={session.id} done={() => setAdding(null)} />}
        {adding === 'table' && <RunTable session={session.id} done={() => setAdding(null)} />}
      </div>
    </li>
  );
}

function Run({ run, session }: { run: Schemas['RunView']; session: number }) {
  const { bench } = useBench();
  const laps = useDictionary().discipline(bench.discipline).clock === 'laps';
  const mayLog = useMay('log');
  return (
    <li className="run">
      <div className="run-head">
        <b>Run {run.number}</b>
        <span>on revision {run.revision}</span>
        {run.best_time !== null && <b className="lap">{lapTime(run.best_time)}</b>}
        {run.laps !== null && laps && <span>{run.laps} laps</span>}
        {run.driver && <span>{run.driver}</span>}
        {run.tyres && <span>{run.tyres}</span>}
        {Object.keys(run.floor).length > 0 && <span>floor {floorWords(run.floor)}</span>}
        {run.note && <span>{run.note}</span>}
      </div>
      {run.not_ready.length > 0 && (
        <details className="let-out">
          <summary>
            <StatusMark status="void" /> Let out by {run.by} though not ready: “{run.released_why}”
          </summary>
          <ul>
            {run.not_ready.map((said) => (
              <li key={said}>{said}</li>
            ))}
          </ul>
        </details>
      )}
      <Clocked run={run} />
      <Amended of={run.amended} />
      <Words run={run} />
      <Pictures run={run} />
      {mayLog && <Amend kind="run" of={run} session={session} />}
    </li>
  );
}
