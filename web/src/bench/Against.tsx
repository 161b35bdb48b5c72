/** What stands against letting the car run, possible damage first. */
import { Link } from 'react-router';
import { useDictionary } from '../lib/vocabulary';
import { useBench } from './bench';

interface Props {
  withLimits?: boolean;
  /** Links open in a window of their own: a form is being filled here. */
  beside?: boolean;
}

export function Against({ withLimits = true, beside = false }: Props) {
  const { bench } = useBench();
  const limits = bench.limits.map((one) => one.words);
  const shown = bench.not_ready.filter((one) => withLimits || !limits.includes(one.words));
  const dictionary = useDictionary();
  return (
    <ul className="against">
      {shown.map((one) => {
        const station = dictionary.data.stations.find((each) => each.readings.includes(one.kind));
        return (
          <li key={one.kind + one.words} className={one.damage ? 'is-damage' : undefined}>
            {station ? (
              <Link
                to={`/cars/${bench.id}/${station.id}#${one.kind}`}
                target={beside ? '_blank' : undefined}
              >
                {one.words}
                {beside && <span className="visually-hidden"> (opens beside this)</span>}
              </Link>
            ) : (
              one.words
            )}
          </li>
        );
      })}
    </ul>
  );
}
