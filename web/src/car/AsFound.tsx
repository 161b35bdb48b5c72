/** What is on the car now: settings that nobody has written down, taken as they stand and not as a change. */
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type NumberName } from '../lib/client';
import { useBench, useSaved, type BenchData } from '../bench/bench';
import { AsFoundForm } from '../bench/AsFoundForm';
import { wayOf } from '../bench/ways';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

/** Places of settable numbers that nobody has set. */
export function notWrittenDown(
  { setup, not_here }: Pick<BenchData, 'setup' | 'not_here'>,
  places: (name: NumberName) => string[],
): { name: NumberName; place: string }[] {
  return (Object.keys(setup) as NumberName[]).flatMap((name) =>
    places(name).flatMap((place, at) =>
      (setup[name]?.[at] ?? null) === null && !not_here[name]?.[place] ? [{ name, place }] : [],
    ),
  );
}

export function AsFound() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [written, setWritten] = useState<number | null>(null);
  // a part that the inventory does not hold cannot be told yet
  const left = notWrittenDown(bench, (name) => dictionary.places(name)).filter(
    ({ name, place }) =>
      !dictionary.entry(name).is_part || wayOf(dictionary, bench, name, place).options.length > 0,
  );
  const undo = api.useMutation('delete', '/api/cars/{car_id}/as-found', useSaved());
  const path = { params: { path: { car_id: bench.id } } };
  return (
    <article className="station">
      <h1>On the car now</h1>
      <p>
        Write down what stands on the car: it is taken as found and not as a change. No reading goes
        stale by it, nothing is predicted. What is set already is changed by the slip. Parts come
        from the <Link to={`/cars/${bench.id}/parts`}>inventory</Link>.
      </p>
      {left.length === 0 ? (
        <p className="hint">Everything that can be set on this car is written down.</p>
      ) : (
        <AsFoundForm asked={left} done={setWritten} />
      )}
      {written !== null && (
        <Notice>
          {written === 1 ? 'One setting' : `${written} settings`} written down as found.{' '}
          <button
            type="button"
            className="quiet"
            disabled={undo.isPending}
            onClick={() => undo.mutate(path, { onSuccess: () => setWritten(null) })}
          >
            Undo
          </button>
        </Notice>
      )}
      {undo.error && <Notice tone="draft">{undo.error.message}</Notice>}
    </article>
  );
}
