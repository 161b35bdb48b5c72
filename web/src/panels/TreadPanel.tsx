/** The four treads as they came off the track: three temperatures each, and what they say. */
import { useQuery } from '@tanstack/react-query';
import { useBench, valueAt } from '../bench/bench';
import { showValue, type Shown } from '../lib/format';
import { treadQuery } from '../lib/queries';
import { CORNERS, useDictionary } from '../lib/vocabulary';

const PARTS = ['tread_inner', 'tread_middle', 'tread_outer'] as const;
const WIDE = 78;
const HIGH = 110;

export function TreadPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = dictionary.shown('temperature', bench.profile);
  const pressure = dictionary.shown('pressure', bench.profile);
  const read = bench.standings.find((one) => one.kind === 'hot_tyres')?.reading;
  const said = useQuery({ ...treadQuery(bench.id), enabled: read !== undefined });
  const across = CORNERS.map((_, i) => PARTS.map((part) => valueAt(bench, part, i)));
  const known = across.flat().filter((one) => one !== undefined);
  // an estimate of a tread is nothing to draw
  if (!read || known.length === 0)
    return (
      <p className="hint">
        The treads are drawn here once hot tyres were read: inner, middle and outer of each,
        straight from the run.
      </p>
    );
  const range: [number, number] = [Math.min(...known), Math.max(...known)];
  return (
    <section className="treads" aria-label="Treads">
      <h2>Treads, straight from the run</h2>
      <div className="treads-grid">
        {CORNERS.map((place, i) => {
          const hot = valueAt(bench, 'hot_pressure', i);
          const cold = valueAt(bench, 'tyre_pressure', i);
          return (
            <div key={place}>
              <h3>{place}</h3>
              <Tread place={place} values={across[i] ?? []} shown={shown} range={range} />
              {hot !== undefined && (
                <p>
                  {cold !== undefined && <>{showValue(cold, pressure)} cold, </>}
                  <b>{showValue(hot, pressure)}</b> hot <small>{pressure.symbol}</small>
                </p>
              )}
              {said.data?.says[place]?.map((sentence) => (
                <p key={sentence} className="hint">
                  {sentence}
                </p>
              ))}
            </div>
          );
        })}
      </div>
      <p className="hint">
        Darker is hotter. Team practice, not physics: wrong after a slow lap, or where one side of
        the tread worked last.
      </p>
    </section>
  );
}

interface TreadProps {
  place: string;
  values: (number | undefined)[];
  shown: Shown;
  range: [number, number];
}

/** One tread from above, its inner edge towards the middle of the car. */
function Tread({ place, values, shown, range: [low, high] }: TreadProps) {
  const left = place.startsWith('L');
  const parts = left ? [...values].reverse() : values;
  const names = left ? ['outer', 'middle', 'inner'] : ['inner', 'middle', 'outer'];
  const words = names.map((name, i) => {
    const value = parts[i];
    return `${name} ${value === undefined ? 'not read' : showValue(value, shown)}`;
  });
  return (
    <svg
      className="tread"
      viewBox={`0 0 ${3 * WIDE + 4} ${HIGH + 24}`}
      role="img"
      aria-label={`${place}: ${words.join(', ')} ${shown.symbol}`}
    >
      {parts.map((value, i) => (
        <g key={names[i]}>
          {value !== undefined && (
            <rect
              className="heat"
              x={2 + i * WIDE}
              y="2"
              width={WIDE}
              height={HIGH}
              fillOpacity={0.04 + (0.34 * (value - low)) / (high - low || 1)}
            />
          )}
          <text x={2 + (i + 0.5) * WIDE} y={HIGH / 2 + 10} textAnchor="middle" className="degrees">
            {value === undefined ? '–' : showValue(value, shown)}
          </text>
          <text x={2 + (i + 0.5) * WIDE} y={HIGH + 20} textAnchor="middle">
            {names[i]}
          </text>
        </g>
      ))}
      <rect className="edge" x="2" y="2" width={3 * WIDE} height={HIGH} rx="2" />
    </svg>
  );
}
