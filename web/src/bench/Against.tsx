/** What stands against letting the car run, possible damage first. */
import { Link } from 'react-router';
import { useDictionary } from '../lib/vocabulary';
import { useBench } from './bench';

export function Against() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return (
    <ul className="against">
      {bench.not_ready.map((one) => {
        const station = dictionary.data.stations.find((each) => each.readings.includes(one.kind));
        return (
          <li key={one.kind + one.words} className={one.damage ? 'is-damage' : undefined}>
            {station ? (
              <Link to={`/cars/${bench.id}/${station.id}#${one.kind}`}>{one.words}</Link>
            ) : (
              one.words
            )}
          </li>
        );
      })}
    </ul>
  );
}
