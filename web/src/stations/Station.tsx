/** One station of the route: its head, its caution, and the page that fits it. */
import { Link, useParams } from 'react-router';
import { useBench } from '../bench/bench';
import { Notice } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';
import { Empty } from '../ui/states';
import { PlanStation } from './PlanStation';
import { SettingsStation } from './SettingsStation';
import { SpringsStation } from './SpringsStation';
import { WeightsStation } from './WeightsStation';

export function Station() {
  const { station: id } = useParams();
  const { bench } = useBench();
  const dictionary = useDictionary();
  const stations = dictionary.stationsFor(bench.discipline);
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
      {station.id === 'plan' && <PlanStation />}
      {station.id === 'weights' && <WeightsStation />}
      {station.id === 'springs' && <SpringsStation />}
      {!['plan', 'weights', 'springs'].includes(station.id) && (
        <SettingsStation station={station} />
      )}
      {next && (
        <p className="onward">
          <Link to={`/cars/${bench.id}/${next.id}`}>Next: {next.label} →</Link>
        </p>
      )}
    </article>
  );
}
