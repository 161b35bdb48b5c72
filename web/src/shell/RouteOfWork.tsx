/** The stations in the order the work is done, each with how it stands. */
import { NavLink } from 'react-router';
import { StatusMark } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';
import { stationStatus, useBench } from '../bench/bench';

export function RouteOfWork({ openLegend }: { openLegend: () => void }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return (
    <nav className="route" aria-label="Order of work">
      <h2>Order of work</h2>
      <ol>
        {dictionary.stationsFor(bench).map((station) => {
          const status = stationStatus(
            bench,
            station.readings,
            (kind) => dictionary.reading(kind)?.when_needed ?? false,
          );
          return (
            <li key={station.id}>
              <NavLink to={`/cars/${bench.id}/${station.id}`}>
                {status ? (
                  <StatusMark status={status} />
                ) : (
                  <span
                    className="nothing-read"
                    title="nothing has to be read here"
                    aria-hidden="true"
                  />
                )}
                <span>
                  {station.label}
                  {status && status !== 'fresh' && (
                    <small className={`word-${status}`}>{status}</small>
                  )}
                </span>
              </NavLink>
            </li>
          );
        })}
      </ol>
      <h2>Work</h2>
      <ul>
        <li>
          <NavLink to={`/cars/${bench.id}/steps`}>Step by step</NavLink>
        </li>
        <li>
          <NavLink to={`/cars/${bench.id}/advise`}>What to change</NavLink>
        </li>
        <li>
          <NavLink to={`/cars/${bench.id}/work`}>Plan of work</NavLink>
        </li>
      </ul>
      <h2>Record</h2>
      <ul>
        <li>
          <NavLink to={`/cars/${bench.id}/logbook`}>Logbook</NavLink>
        </li>
        <li>
          <NavLink to={`/cars/${bench.id}/compare`}>Compare</NavLink>
        </li>
        <li>
          <NavLink to={`/cars/${bench.id}/data`}>Car data</NavLink>
        </li>
        <li>
          <NavLink to={`/cars/${bench.id}/parts`}>Inventory</NavLink>
        </li>
      </ul>
      <button type="button" className="marks-key" onClick={openLegend}>
        Legend <kbd>?</kbd>
      </button>
    </nav>
  );
}
