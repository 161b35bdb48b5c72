/** A fact of the car, or a target, typed in any unit and saved when left. */
import { useMutation } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { ask, client, Problem, type NumberName } from '../lib/client';
import { useBench } from './bench';
import { useMay } from '../lib/me';
import { KindMark } from '../ui/marks';
import { decimalsOf, useDictionary } from '../lib/vocabulary';

interface Props {
  name: NumberName;
  /** Places that this one field writes alike, such as both corners of an axle. */
  places: string[];
  label?: string;
}

export function GivenField({ name, places, label }: Props) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const id = useId();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const all = dictionary.places(name);
  const values = bench.given[name]?.values ?? all.map(() => null);
  const inverted = name === 'motion_ratio' && bench.ratio_is === 'wheel_per_spring';
  const ratioUnit = inverted ? 'wheel / spring' : 'spring / wheel';
  const unit = name === 'motion_ratio' ? ratioUnit : shown.symbol;
  const here = places.map((place) => values[all.indexOf(place)] ?? null);
  const text = describe(here, (si) => (inverted ? (1 / si).toFixed(3) : showPrecise(si, shown)));
  const [typed, setTyped] = useState<string | null>(null);
  const [was, setWas] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: ({ cell, confirmed }: { cell: string; confirmed: boolean }) => {
      const next: (string | number | null)[] = all.map((place, i) =>
        places.includes(place) ? cell : (values[i] ?? null),
      );
      return ask(
        client.PATCH('/api/cars/{car_id}/given', {
          params: { path: { car_id: bench.id } },
          body: { values: { [name]: next }, confirmed },
        }),
      );
    },
    onMutate: () => text,
    onSuccess: async (_, { cell }, before) => {
      await refresh();
      setTyped(null);
      setWas(cell === before || before.includes('|') ? null : before);
    },
  });
  const problem = save.error instanceof Problem ? save.error : null;
  const sentence = problem ? (problem.errors[0]?.detail ?? problem.detail) : null;
  const commit = () => {
    if (typed === null || typed === text) {
      setTyped(null);
      save.reset();
    } else save.mutate({ cell: typed, confirmed: false });
  };
  const estimated = bench.given[name]?.estimated ?? false;
  return (
    <div
      className={`given-field${sentence ? ' has-problem' : ''}`}
      id={`${name}-${places[0] ?? ''}`}
    >
      <label htmlFor={id}>
        <KindMark kind={entry.kind} /> {label ?? entry.label}
        {estimated && <span className="estimate">est.</span>}
      </label>
      <span className="given-box">
        <input
          id={id}
          value={typed ?? text}
          placeholder={text ? undefined : name === 'target_frequency' ? 'aim' : 'not given'}
          readOnly={!may}
          inputMode="text"
          autoComplete="off"
          aria-invalid={sentence !== null}
          aria-describedby={`${id}-said`}
          onChange={(event) => {
            setTyped(event.target.value);
            save.reset();
          }}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') commit();
            if (event.key === 'Escape') {
              setTyped(null);
              save.reset();
            }
          }}
        />
        {unit && <small>{unit}</small>}
      </span>
      {was !== null && typed === null && may && (
        <button
          type="button"
          className="quiet put-back"
          onClick={() => save.mutate({ cell: was, confirmed: true })}
        >
          was {was || 'not given'}: put back
        </button>
      )}
      <span id={`${id}-said`} className="field-said" role={sentence ? 'alert' : undefined}>
        {sentence}
        {problem?.asksToConfirm && (
          <button
            type="button"
            className="quiet"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => save.mutate({ cell: typed ?? '', confirmed: true })}
          >
            It is so: {typed}
          </button>
        )}
      </span>
    </div>
  );
}

/** A given number is shown to one more digit than it is worth, so that what was typed comes back. */
export function showPrecise(
  si: number,
  shown: { factor: number; offset: number; precision: number; symbol: string },
): string {
  const value = si * shown.factor + shown.offset;
  return String(Number(value.toFixed(decimalsOf(shown.precision) + 2)));
}

function describe(values: (number | null)[], show: (si: number) => string): string {
  const texts = values.map((value) => (value === null ? '' : show(value)));
  return texts.every((text) => text === texts[0]) ? (texts[0] ?? '') : texts.join(' | ');
}

/** Fields for a number at every place, left and right together where they are alike. */
export function GivenFields({ name, axle }: { name: NumberName; axle?: 'front' | 'rear' }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shape = dictionary.entry(name).shape;
  if (shape === 'car') return <GivenField name={name} places={['car']} />;
  if (shape !== 'axle' && shape !== 'corner')
    return dictionary
      .places(name)
      .map((place) => (
        <GivenField
          key={place}
          name={name}
          places={[place]}
          label={`${dictionary.entry(name).label}, ${place}`}
        />
      ));
  if (shape === 'axle')
    return (['front', 'rear'] as const)
      .filter((one) => !axle || one === axle)
      .map((one) => (
        <GivenField
          key={one}
          name={name}
          places={[one]}
          label={axle ? undefined : `${dictionary.entry(name).label}, ${one}`}
        />
      ));
  const values = bench.given[name]?.values ?? [];
  return [
    ['LF', 'RF'],
    ['LR', 'RR'],
  ]
    .filter((_, i) => !axle || (axle === 'front') === (i === 0))
    .flatMap((pair, i) => {
      const first = axle === 'rear' || i === 1 ? 2 : 0;
      const label = dictionary.entry(name).label;
      if (values[first] === values[first + 1])
        return [
          <GivenField
            key={pair[0]}
            name={name}
            places={pair}
            label={axle ? undefined : `${label}, ${first ? 'rear' : 'front'}`}
          />,
        ];
      return pair.map((place) => (
        <GivenField key={place} name={name} places={[place]} label={`${label}, ${place}`} />
      ));
    });
}
