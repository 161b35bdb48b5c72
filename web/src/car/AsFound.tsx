/** What is on the car now: settings that nobody has written down, taken as they stand and not as a change. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { api, type NumberName } from '../lib/client';
import { useBench, useSaved, type BenchData } from '../bench/bench';
import { AsFoundCell } from '../bench/AsFoundCell';
import { wayOf } from '../bench/ways';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

/** Places of settable numbers that nobody has set. */
export function notWrittenDown(
  setup: BenchData['setup'],
  places: (name: NumberName) => string[],
): { name: NumberName; place: string }[] {
  return (Object.keys(setup) as NumberName[]).flatMap((name) =>
    places(name).flatMap((place, at) =>
      (setup[name]?.[at] ?? null) === null ? [{ name, place }] : [],
    ),
  );
}

export function AsFound() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('draft');
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [written, setWritten] = useState<number | null>(null);
  const left = notWrittenDown(bench.setup, (name) => dictionary.places(name));
  // a part that the inventory does not hold cannot be told yet
  const names = [...new Set(left.map((one) => one.name))].filter(
    (name) =>
      !dictionary.entry(name).is_part ||
      left.some(
        (one) => one.name === name && wayOf(dictionary, bench, name, one.place).options.length > 0,
      ),
  );
  const saved = useSaved(() => setTyped({}));
  const save = api.useMutation('post', '/api/cars/{car_id}/as-found', saved);
  const undo = api.useMutation('delete', '/api/cars/{car_id}/as-found', saved);
  const path = { params: { path: { car_id: bench.id } } };
  const filled = left.filter(({ name, place }) => typed[`${name} ${place}`]?.trim());
  const send = () =>
    save.mutate(
      {
        ...path,
        body: {
          changes: filled.map(({ name, place }) => ({
            name,
            place,
            new: typed[`${name} ${place}`]?.trim() ?? '',
          })),
        },
      },
      { onSuccess: () => setWritten(filled.length) },
    );
  return (
    <article className="station">
      <h1>On the car now</h1>
      <p>
        Write down what stands on the car: it is taken as found and not as a change. No reading goes
        stale by it, nothing is predicted. What is set already is changed by the slip. Parts come
        from the <Link to={`/cars/${bench.id}/parts`}>inventory</Link>.
      </p>
      {names.length === 0 ? (
        <p className="hint">Everything that can be set on this car is written down.</p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            send();
          }}
        >
          {names.map((name) => (
            <fieldset key={name} className="as-found" disabled={!may}>
              <legend>{dictionary.entry(name).label}</legend>
              {left
                .filter((one) => one.name === name)
                .map(({ place }) => (
                  <AsFoundCell
                    key={place}
                    name={name}
                    place={place}
                    value={typed[`${name} ${place}`] ?? ''}
                    set={(value) => setTyped({ ...typed, [`${name} ${place}`]: value })}
                    problem={save.error}
                  />
                ))}
            </fieldset>
          ))}
          {save.error && <Notice tone="draft">{save.error.message}</Notice>}
          {may && (
            <Button type="submit" variant="dark" disabled={filled.length === 0 || save.isPending}>
              This is on the car now
              {filled.length > 0 && <small> {filled.length} settings</small>}
            </Button>
          )}
        </form>
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
