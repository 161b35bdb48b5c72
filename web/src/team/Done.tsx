/** What was done in the team, the newest first: who, when, and what stood there before. Nobody edits it. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import Table from 'react-bootstrap/Table';
import type { Schemas } from '../lib/client';
import { useDone, garageQuery } from '../lib/queries';
import { Choose } from '../ui/fields';
import { Header } from '../ui/Header';
import { Empty, Failed, Moment, Waiting } from '../ui/states';
import { WideTable } from '../ui/WideTable';

const WHAT: Record<string, string> = {
  slip: 'a change slip',
  car: 'a car’s data or inventory',
  session: 'a session',
  run: 'a run',
  event: 'an event',
  reading: 'a reading',
  revision: 'a revision',
  verdict: 'a verdict',
  amendment: 'a correction',
  picture: 'a photo',
  walk: 'an order of work',
  tick: 'a step of the work',
  watched: 'something to watch',
  watched_done: 'a torque or a service',
  person: 'a person',
  invitation: 'a link to choose a password',
  team: 'a team',
};

/** What was done, as a sentence's verb and object. */
function said(entry: Schemas['DoneEntry']): string {
  if (entry.what === 'sign_in') {
    if (entry.did === 'was refused') return 'a sign-in was refused';
    return entry.did === 'added' ? 'signed in' : 'ended a sign-in';
  }
  const state = entry.changes.find((one) => one.field === 'state')?.after;
  if (entry.what === 'slip' && state === 'booked') return 'booked a slip';
  if (entry.what === 'slip' && state === 'parked') return 'saved a slip for later';
  if (entry.what === 'car' && entry.changes.every((one) => one.field === 'revision'))
    return 'put a revision on the car';
  return `${entry.did} ${WHAT[entry.what] ?? entry.what}`;
}

export function Done() {
  const [car, setCar] = useState('0');
  const garage = useQuery(garageQuery);
  const done = useDone(Number(car));
  const names = new Map(garage.data?.cars.map((one) => [one.id, one.name]));
  const entries = done.data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <>
      <Header />
      <main className="garage team">
        <div className="sheet-head">
          <h1>What was done</h1>
          <p>
            Every write, sign-in and file that left, as the database kept it. Nobody can edit it;
            each entry is sealed with the one before. <Link to="/team">Back to the team</Link>
          </p>
        </div>
        <Choose
          id="done-car"
          label="Car"
          value={car}
          set={setCar}
          options={[
            ['0', 'all of it'],
            ...[...names].map(([id, name]): [string, string] => [`${id}`, name]),
          ]}
        />
        {done.isPending && <Waiting what="Fetching what was done" />}
        {done.isError && <Failed error={done.error} again={() => void done.refetch()} />}
        {done.data && entries.length === 0 && (
          <Empty title="Nothing was done here yet.">The first write will be the first entry.</Empty>
        )}
        {entries.length > 0 && (
          <WideTable label="What was done">
            <Table size="sm" className="done-table">
              <thead>
                <tr>
                  <th scope="col">When</th>
                  <th scope="col">Who</th>
                  <th scope="col">Did</th>
                  <th scope="col">From → to</th>
                  <th scope="col">Seal</th>
                </tr>
              </thead>
              <tbody>
                {entries.map((entry) => (
                  <DoneRow key={entry.id} entry={entry} names={names} />
                ))}
              </tbody>
            </Table>
          </WideTable>
        )}
        {done.hasNextPage && (
          <button
            type="button"
            className="quiet"
            disabled={done.isFetchingNextPage}
            onClick={() => void done.fetchNextPage()}
          >
            Older entries
          </button>
        )}
      </main>
    </>
  );
}

interface RowProps {
  entry: Schemas['DoneEntry'];
  /** The cars by their numbers. */
  names: Map<number, string>;
}

function DoneRow({ entry, names }: RowProps) {
  return (
    <tr>
      <td>
        <Moment at={entry.at} />
      </td>
      <td>{entry.who}</td>
      <td>
        {said(entry)}
        {entry.car !== null && <small>{names.get(entry.car) ?? `car ${entry.car}`}</small>}
      </td>
      <td>
        <Changes entry={entry} />
      </td>
      <td>
        <code>{entry.seal.slice(0, 8)}</code>
      </td>
    </tr>
  );
}

function Changes({ entry }: { entry: Schemas['DoneEntry'] }) {
  if (entry.changes.length === 0) return null;
  const changed = entry.did === 'changed';
  return (
    <ul className="done-changes">
      {entry.changes.slice(0, changed ? undefined : 4).map((one) => (
        <li key={one.field}>
          <span>{one.field.replace('document.', '').replaceAll('_', ' ')}</span>{' '}
          {changed && <del>{one.before || 'nothing'}</del>} {changed && '→ '}
          <ins>{one.after || (changed ? 'nothing' : one.before)}</ins>
        </li>
      ))}
      {(entry.more > 0 || (!changed && entry.changes.length > 4)) && (
        <li className="hint">and {entry.more + (changed ? 0 : entry.changes.length - 4)} more</li>
      )}
    </ul>
  );
}
