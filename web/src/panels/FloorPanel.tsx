/** Heights that touched and heights that ran free, place by place, with where the car stands now. */
import { useQuery } from '@tanstack/react-query';
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { floorQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Failed, Waiting } from '../ui/states';

const [WIDE, HIGH, EDGE] = [320, 46, 40];
/** Room on either side of what is drawn [m]. */
const MARGIN = 0.004;

export function FloorPanel() {
  const { bench } = useBench();
  const shown = useDictionary().shown('height', bench.profile);
  const found = useQuery(floorQuery(bench.id));
  if (found.isPending) return <Waiting what="Looking under the car" />;
  if (found.isError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const places = [...new Set(found.data.learned.map((one) => one.place))];
  return (
    <section className="floor-panel" aria-label="Where the floor has touched">
      <h2>
        Where the floor has touched <small>{shown.symbol}</small>
      </h2>
      {places.length === 0 && (
        <p className="hint">
          Look at the floor after a run and say so with the run, free or touched: heights that
          touched and that ran free are kept here, place by place.
        </p>
      )}
      {places.map((place) => (
        <div key={place}>
          <h3>{place || 'A place without a name'}</h3>
          {found.data.learned
            .filter((one) => one.place === place)
            .map((one) => (
              <Axle key={one.axle} of={one} />
            ))}
        </div>
      ))}
    </section>
  );
}

function Axle({ of }: { of: Schemas['Learned'] }) {
  const { bench } = useBench();
  const shown = useDictionary().shown('height', bench.profile);
  const known = [of.touched_at, of.free_at, of.now].filter((one) => one !== null);
  const low = Math.min(...known) - MARGIN;
  const high = Math.max(...known) + MARGIN;
  const x = (at: number) => EDGE + ((WIDE - 2 * EDGE) * (at - low)) / (high - low);
  const marks = [
    { words: 'touched', at: of.touched_at, y: 12 },
    { words: 'free', at: of.free_at, y: 12 },
    { words: 'now', at: of.now, y: 42 },
  ].filter((one) => one.at !== null);
  // two words over one line: each to its own side
  const anchor = ({ words, at }: (typeof marks)[number]) => {
    const other = words === 'touched' ? of.free_at : of.touched_at;
    if (words === 'now' || other === null || at === null) return 'middle';
    return at < other || (at === other && words === 'touched') ? 'end' : 'start';
  };
  const said = marks.map((one) => `${one.words} ${showValue(one.at ?? 0, shown)}`).join(', ');
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        role="img"
        aria-label={`${of.axle}: ${said || 'no heights'} ${shown.symbol}`}
      >
        <text x="0" y="27" className="axle-name">
          {of.axle}
        </text>
        <path className="scale" d={`M${EDGE} 23H${WIDE - EDGE / 2}`} />
        {marks.map((one) => (
          <g key={one.words} className={`mark-${one.words}`}>
            <Mark kind={one.words} x={x(one.at ?? 0)} />
            <text x={x(one.at ?? 0)} y={one.y} textAnchor={anchor(one)}>
              {one.words} {showValue(one.at ?? 0, shown)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption>
        {of.says}{' '}
        <small>
          from {of.looks} {of.looks === 1 ? 'look' : 'looks'}
        </small>
      </figcaption>
    </figure>
  );
}

function Mark({ kind, x }: { kind: string; x: number }) {
  if (kind === 'touched') return <path d={`M${x - 4} 19l8 8m0 -8l-8 8`} />;
  if (kind === 'free') return <circle cx={x} cy="23" r="4" />;
  return <path d={`M${x} 17V31`} />;
}
