/** What the clocked passes say of the launch, beside the acceleration it is worked at. */
import { useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import Table from 'react-bootstrap/Table';
import { useBench, useSaved, valueAt } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { lastRunsQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { WideTable } from '../ui/WideTable';

/** Older passes are in the logbook. */
const MOST = 6;

export function PassesPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const found = useQuery(lastRunsQuery(bench.id));
  const give = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  const may = useMay('give');
  if (!found.data) return null;
  const passes = found.data.sessions
    .flatMap((session) => session.runs.map((run) => ({ run, session })))
    .filter(({ run }) => run.launch !== null)
    .slice(-MOST)
    .reverse();
  const shown = dictionary.shown('acceleration', bench.profile);
  const length = dictionary.shown('dimension', bench.profile);
  const now = valueAt(bench, 'launch_acceleration');
  const newest = passes[0]?.run;
  return (
    <section className="passes" aria-label="What the passes say">
      <h2>What the passes say</h2>
      {!newest ? (
        <p className="hint">
          No pass with a 60 ft time yet. <Link to={`/cars/${bench.id}/logbook`}>Log one</Link>: the
          launch is then worked at what this car did.
        </p>
      ) : (
        <>
          <p className="hint">
            Mean acceleration over the first 60 ft, with{' '}
            {showValue(dictionary.data.rollout, length)} {length.symbol} rolled before the clock
            starts. The hit itself is harder.
          </p>
          <PassTable passes={passes} />
          {may &&
            now !== undefined &&
            Math.abs(now - launch(newest)) > shown.precision / shown.factor && (
              <p>
                The launch is worked at {showValue(now, shown)} {shown.symbol}.{' '}
                <Button
                  variant="outline-dark"
                  disabled={give.isPending}
                  onClick={() =>
                    give.mutate({
                      params: { path: { car_id: bench.id } },
                      body: { values: { launch_acceleration: [launch(newest)] } },
                    })
                  }
                >
                  Work it at {showValue(launch(newest), shown)} {shown.symbol}
                </Button>
              </p>
            )}
          {give.error && <p role="alert">{give.error.detail}</p>}
        </>
      )}
    </section>
  );
}

const launch = (run: Schemas['RunView']) => run.launch ?? 0;

interface TableProps {
  passes: { run: Schemas['RunView']; session: Schemas['SessionView'] }[];
}

function PassTable({ passes }: TableProps) {
  const { bench } = useBench();
  const shown = useDictionary().shown('acceleration', bench.profile);
  return (
    <WideTable label="Launch of each pass">
      <Table size="sm" className="in-time-results">
        <thead>
          <tr>
            <th scope="col">Pass</th>
            <th scope="col">Revision</th>
            <th scope="col">60 ft, s</th>
            <th scope="col">Mean, {shown.symbol}</th>
          </tr>
        </thead>
        <tbody>
          {passes.map(({ run, session }) => (
            <tr key={run.id}>
              <th scope="row">
                {session.name}, run {run.number}
              </th>
              <td>{run.revision}</td>
              <td>{run.clocked.find((one) => one.id === 't60')?.value.toFixed(3)}</td>
              <td>{showValue(launch(run), shown)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </WideTable>
  );
}
