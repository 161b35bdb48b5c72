/** One station of the route: its head, its caution, and the panels that its table names. */
import { useEffect } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { useBench } from '../bench/bench';
import { useDictionary } from '../lib/vocabulary';
import { Panel } from '../panels/Panels';
import { Notice } from '../ui/marks';
import { Empty } from '../ui/states';

export function Station() {
  const { station: id } = useParams();
  const { hash } = useLocation();
  const { bench } = useBench();
  const dictionary = useDictionary();
  useEffect(() => {
    if (hash)
      document
        .getElementById(decodeURIComponent(hash.slice(1)))
        ?.scrollIntoView({ block: 'center' });
  }, [hash, id]);
  const stations = dictionary.stationsFor(bench);
  const at = stations.findIndex((one) => one.id === id);
  const station = stations[at];
  if (!station)
    return (
      <Empty title="This car has no such station.">
        <Link to={`/cars/${bench.id}/plan`}>Go to the car in plan</Link>
      </Empty>
    );
  const next = stations[at + 1];
  return (
    <article className={`station station-${station.id}`}>
      <div className="sheet-head">
        <h1>{station.label}</h1>
        <p>{station.about}</p>
      </div>
      {station.caution && <Notice>{station.caution}</Notice>}
      {station.panel.map((panel, i) => (
        <Panel key={`${station.id}-${i}`} station={station} panel={panel} />
      ))}
      {next && (
        <p className="onward">
          <Link to={`/cars/${bench.id}/${next.id}`}>Next: {next.label} →</Link>
        </p>
      )}
    </article>
  );
}
