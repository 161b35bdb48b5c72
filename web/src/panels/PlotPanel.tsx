/** Figures over one number, as the station's table names them: booked and drafted. */
import { useQuery } from '@tanstack/react-query';
import { useBench } from '../bench/bench';
import type { NumberName, Schemas } from '../lib/client';
import { plotQuery } from '../lib/queries';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Plot } from '../ui/Plot';
import type { Line } from '../ui/plotValues';
import { Waiting } from '../ui/states';
import type { PanelProps } from './props';

export function PlotPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const x = panel.x as NumberName;
  const names = panel.names.filter((name) => bench.figures[name] !== undefined);
  const found = useQuery({
    ...plotQuery(bench.id, x, names),
    enabled: names.length > 0 && bench.figures[x] !== undefined,
    placeholderData: (before) => before,
  });
  if (names.length === 0 || bench.figures[x] === undefined) return null;
  if (found.isError) return <p className="hint">{found.error.message}</p>;
  if (!found.data) return <Waiting what="Drawing" />;
  const told = found.data;
  const across = dictionary.entry(x);
  const shownX = dictionary.shown(across.quantity, bench.profile);
  const first = dictionary.entry(names[0] ?? x);
  const shownY = dictionary.shown(first.quantity, bench.profile);
  const line = (curve: Schemas['CurveView'], order: number, drafted: boolean): Line => ({
    label: whereWords(dictionary.entry(curve.name).label, [curve.place]),
    order,
    drafted,
    points: told.values.flatMap((at, i) => {
      const value = curve.values[i];
      return value === null || value === undefined ? [] : [[at, value] as [number, number]];
    }),
  });
  const order = (curve: Schemas['CurveView']) =>
    told.booked.findIndex((one) => one.name === curve.name && one.place === curve.place);
  const changed = told.drafted.filter((curve) => {
    const before = told.booked[order(curve)];
    return before && before.values.some((one, i) => one !== curve.values[i]);
  });
  return (
    <Plot
      label={`${names.map((name) => dictionary.entry(name).label).join(', ')} over ${across.label.toLowerCase()}`}
      x={{ name: across.label, shown: shownX, here: told.here }}
      y={{ name: names.length === 1 ? first.label : '', shown: shownY }}
      lines={[
        ...told.booked.map((curve, i) => line(curve, i, false)),
        ...changed.map((curve) => line(curve, order(curve), true)),
      ]}
    />
  );
}
