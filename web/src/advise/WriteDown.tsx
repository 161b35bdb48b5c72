/** Settings that nobody has written down and a cure would step: asked for here and taken as they stand. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { AsFoundCell } from '../bench/AsFoundCell';
import { useBench, useSaved } from '../bench/bench';
import { api, type NumberName, type Schemas } from '../lib/client';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

interface Props {
  of: Schemas['AdvisedView'][];
  again: () => void;
}

export function WriteDown({ of, again }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('draft');
  const [typed, setTyped] = useState<Record<string, string>>({});
  const save = api.useMutation(
    'post',
    '/api/cars/{car_id}/as-found',
    useSaved(() => {
      setTyped({});
      again();
    }),
  );
  const asked = new Map<NumberName, Set<string>>();
  for (const one of of) {
    const places = asked.get(one.number) ?? new Set<string>();
    one.asks.forEach((place) => places.add(place));
    if (places.size > 0) asked.set(one.number, places);
  }
  if (asked.size === 0 || !may) return null;
  const changes = [...asked].flatMap(([name, places]) =>
    [...places].flatMap((place) => {
      const text = typed[`${name} ${place}`]?.trim() ?? '';
      return text ? [{ name, place, new: text }] : [];
    }),
  );
  return (
    <form
      className="write-down"
      aria-label="Write down first"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({ params: { path: { car_id: bench.id } }, body: { changes } });
      }}
    >
      <h2>Write down first</h2>
      <p className="hint">
        What these stand at now, as found and not as a change: the cures below can then be sized.
      </p>
      {[...asked].map(([name, places]) => (
        <fieldset key={name} className="as-found">
          <legend>{dictionary.entry(name).label}</legend>
          {dictionary
            .places(name)
            .filter((place) => places.has(place))
            .map((place) => (
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
      <Button
        type="submit"
        variant="outline-dark"
        disabled={changes.length === 0 || save.isPending}
      >
        This is on the car now
      </Button>
    </form>
  );
}
