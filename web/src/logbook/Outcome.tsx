/** What came of a change: figures expected against those read after, and what the clock may say. */
import { useQuery } from '@tanstack/react-query';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { showValue } from '../lib/format';
import type { Schemas } from '../lib/client';
import { outcomeQuery } from '../lib/queries';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Notice, StatusMark } from '../ui/marks';
import { Waiting } from '../ui/states';
import { WideTable } from '../ui/WideTable';

interface Props {
  revision: number;
  /** Put the setting before on the slip, to run it once more; absent where this person may not. */
  runAgain: (() => void) | undefined;
}

export function Outcome({ revision, runAgain }: Props) {
  const { bench } = useBench();
  const found = useQuery(outcomeQuery(bench.id, revision));
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  if (!found.data) return <Waiting what="Comparing" />;
  const told = found.data;
  return (
    <div className="outcome-told">
      <p>
        <b>{told.said}</b>{' '}
        <small>
          {told.before} timed before, {told.after} after.
        </small>
      </p>
      {told.confounders.length > 0 && (
        <ul aria-label="What else was different">
          {told.confounders.map((said) => (
            <li key={said}>
              <StatusMark status="doubtful" /> {said}
            </li>
          ))}
        </ul>
      )}
      {!told.again && told.after > 0 && (
        <p className="hint">
          The surest answer is the first setting once more (A-B-A).{' '}
          {runAgain && (
            <button type="button" className="quiet" onClick={runAgain}>
              Put revision {revision - 1} on the slip
            </button>
          )}
        </p>
      )}
      {told.again && <p className="hint">The first setting was run once more after it (A-B-A).</p>}
      {told.found.length > 0 ? (
        <ExpectedAndRead revision={revision} found={told.found} />
      ) : (
        <p className="hint">Nothing that it moves was read on revision {revision}.</p>
      )}
    </div>
  );
}

interface ReadProps {
  revision: number;
  found: Schemas['OutcomeView']['found'];
}

function ExpectedAndRead({ revision, found }: ReadProps) {
  return (
    <WideTable label={`Expected and read on revision ${revision}`}>
      <Table size="sm">
        <thead>
          <tr>
            <th scope="col">Read</th>
            <th scope="col">Before</th>
            <th scope="col">Expected</th>
            <th scope="col">Found</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {found.map((one) => (
            <ReadRow key={one.name + one.place} one={one} />
          ))}
        </tbody>
      </Table>
    </WideTable>
  );
}

function ReadRow({ one }: { one: ReadProps['found'][number] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(one.name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  return (
    <tr>
      <th scope="row">
        {whereWords(entry.label, [one.place])} <small>{shown.symbol}</small>
      </th>
      <td>{showValue(one.before, shown)}</td>
      <td>{one.expected === null ? <small>not worked</small> : showValue(one.expected, shown)}</td>
      <td>
        <b>{showValue(one.found, shown)}</b>
      </td>
      <td>
        {one.expected === null ? null : one.as_expected ? (
          <small>as expected</small>
        ) : (
          <small className="word-doubtful">otherwise</small>
        )}
      </td>
    </tr>
  );
}
