/** The orders of work of this car: what is due now, and each order to be walked step by step. */
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useBench } from '../bench/bench';
import { walksQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { StatusMark } from '../ui/marks';
import { Moment } from '../ui/states';
import { useDue } from './due';

export function Walks() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const due = useDue();
  const found = useQuery(walksQuery(bench.id));
  const minutes = due.reduce((sum, one) => sum + one.kind.minutes, 0);
  return (
    <article className="walks">
      <div className="sheet-head">
        <h1>Step by step</h1>
        <p>One step a page, for a tablet at the car; who ticked what is kept.</p>
      </div>
      <section aria-label="Due now">
        <h2>Due now</h2>
        {due.length === 0 ? (
          <p className="hint">Every reading of this car counts: nothing has to be read again.</p>
        ) : (
          <>
            <p>
              <b>{due.length}</b> to read, about <b>{minutes}</b> minutes.
            </p>
            <ul className="walk-due">
              {due.map(({ kind, status }) => (
                <li key={kind.id}>
                  <StatusMark status={status} /> {kind.label} <small>{kind.minutes} min</small>
                </li>
              ))}
            </ul>
            <Link className="btn btn-dark" to={`/cars/${bench.id}/steps/due`}>
              Start
            </Link>
          </>
        )}
      </section>
      <section aria-label="Orders of work">
        <h2>Orders of work</h2>
        <ul className="walk-orders">
          {dictionary.data.procedures
            .filter((one) => one.disciplines.includes(bench.discipline))
            .map((one) => {
              const walk = found.data?.walks.find((each) => each.procedure === one.id);
              return (
                <li key={one.id}>
                  <Link to={`/cars/${bench.id}/steps/${one.id}`}>{one.label}</Link>
                  {one.school && <small>{one.school}</small>}
                  <small>
                    {walk ? (
                      <>
                        {walk.ticks.length} of {one.steps.length} done, begun{' '}
                        <Moment at={walk.started_at} by={walk.started_by} />
                      </>
                    ) : (
                      `${one.steps.length} steps`
                    )}
                  </small>
                </li>
              );
            })}
        </ul>
      </section>
      <OnPaper />
    </article>
  );
}

/** The same on one page each, to be printed for the car and the wall. */
function OnPaper() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const changed = bench.revision > 1 || bench.slip.lines.length > 0;
  const sheets = [
    ['Set-up sheet', 'setup'],
    ...(changed ? [['Change sheet', 'changes']] : []),
    ...(bench.rear_layout === 'independent' ? [] : [['Links from the side', 'links']]),
    ...dictionary.data.procedures
      .filter((one) => one.disciplines.includes(bench.discipline))
      .map((one) => [one.label, `order/${one.id}`]),
  ];
  return (
    <section aria-label="On paper">
      <h2>On paper</h2>
      <ul className="walk-paper">
        {sheets.map(([label, path]) => (
          <li key={path}>
            <span>{label}</span>
            {(['a4', 'letter'] as const).map((paper) => (
              <a
                key={paper}
                href={`/api/cars/${bench.id}/sheets/${path}?paper=${paper}`}
                target="_blank"
                rel="noreferrer"
                aria-label={`${label}, ${paper === 'a4' ? 'A4' : 'Letter'}`}
              >
                {paper === 'a4' ? 'A4' : 'Letter'}
              </a>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
