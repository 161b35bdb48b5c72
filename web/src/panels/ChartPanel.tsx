/** A chart that the table of a station names: booked, and as the slip would have it. */
import { useQuery } from '@tanstack/react-query';
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { capital } from '../lib/format';
import { chartQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Plot } from '../ui/Plot';
import type { Line, Mark } from '../ui/plotValues';
import { Waiting } from '../ui/states';
import type { PanelProps } from './props';

type Drawn = Schemas['DrawnView'];

export function ChartPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.data.charts.find((one) => one.name === panel.chart);
  const found = useQuery(chartQuery(bench.id, panel.chart));
  if (!entry) return null;
  if (found.isError) return <p className="hint">{found.error.message}</p>;
  if (!found.data) return <Waiting what="Drawing" />;
  const { booked, drafted, missing } = found.data;
  const shown = (axis: Schemas['AxisEntry']) => ({
    name: axis.label,
    shown: dictionary.shown(axis.quantity, bench.profile),
  });
  const lines = [
    ...(booked?.lines ?? []).map((line, i) => lineOf(booked, line, i, false)),
    ...changed(booked, drafted).map((line, i) => lineOf(drafted, line, i, true)),
  ];
  return (
    <section className="chart-panel" aria-label={entry.label}>
      <h3>{entry.label}</h3>
      <p className="hint">{missing || entry.help}</p>
      {booked?.note && <p className="chart-note">{booked.note}</p>}
      {drafted?.note && drafted.note !== booked?.note && (
        <p className="chart-note drafted">After the slip: {drafted.note}</p>
      )}
      <Plot
        label={entry.label}
        x={shown(entry.x)}
        y={shown(entry.y)}
        lines={lines}
        marks={marksOf(booked, drafted)}
      />
    </section>
  );
}

function lineOf(of: Drawn | null, line: Drawn['lines'][number], i: number, drafted: boolean): Line {
  return {
    label: capital(line.label),
    order: i,
    drafted,
    faint: line.faint,
    points: (of?.x ?? []).flatMap((at, j) => {
      const value = line.values[j];
      return value === null || value === undefined ? [] : [[at, value] as [number, number]];
    }),
  };
}

/** Drafted lines that are not where the booked ones are; all of them where the chart is another. */
function changed(booked: Drawn | null, drafted: Drawn | null): Drawn['lines'] {
  const told = (of: Drawn | null) => (of?.lines ?? []).filter((line) => !line.faint);
  const alike = JSON.stringify(told(booked)) === JSON.stringify(told(drafted));
  return alike ? [] : told(drafted);
}

function marksOf(booked: Drawn | null, drafted: Drawn | null): Mark[] {
  const now = booked?.marks ?? [];
  const then = (drafted?.marks ?? []).filter(
    (mark) => !now.some((one) => one.label === mark.label && one.at === mark.at),
  );
  return [...now, ...then.map((mark) => ({ ...mark, drafted: true }))];
}
