/** The axle in plan against the plumb point's diagonals, its skew overdrawn, and the bars to move. */
import { useBench } from '../bench/bench';
import type { NumberName } from '../lib/client';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

/** The skew is drawn so many times larger. */
const DRAWN = 15;
/** Less than this behind is what a tape is good to [m]. */
const SQUARE_ENOUGH = 0.001;
/** More than this is no longer taken up by screwing a bar [m]. */
const BEYOND_BARS = 0.025;

export function SquarePanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const value = (name: NumberName, at = 0) => bench.figures[name]?.values?.[at];
  const long = dictionary.shown('dimension', bench.profile);
  const reach = value('plumb_distance');
  const apart = value('axle_points');
  const skew = value('axle_skew');
  const [left, right] = [value('diagonal', 0), value('diagonal', 1)];
  const read = bench.standings.find((one) => one.kind === 'square')?.reading;
  if (!read?.values.diagonal || reach === undefined || apart === undefined || skew === undefined)
    return (
      <p className="hint">
        The axle is drawn here once both diagonals were read, with how far the bars have to move.
      </p>
    );
  const off = value('axle_offset') ?? 0;
  const half = (apart / 2) * 1000;
  const [down, aside] = [reach * 1000, -off * 1000];
  // an axle with its left end behind is turned the way the hands of a clock do not go
  const turn = (-skew * DRAWN * 180) / Math.PI;
  const end = (side: -1 | 1) => {
    const angle = (turn * Math.PI) / 180;
    return `${aside + side * half * Math.cos(angle)} ${down + side * half * Math.sin(angle)}`;
  };
  return (
    <section className="square-panel" aria-label="Square">
      <svg
        viewBox={`${-half - 420} -160 ${2 * half + 840} ${down + 420}`}
        role="img"
        aria-label={`The axle in plan: left diagonal ${showValue(left ?? 0, long)}, right ${showValue(right ?? 0, long)} ${long.symbol}`}
      >
        <path className="centre" d={`M0 0V${down + 200}`} />
        <path className="level" d={`M${-half - 100} ${down}H${half + 100}`} />
        <path className="diagonal" d={`M0 0L${end(-1)}`} />
        <path className="diagonal" d={`M0 0L${end(1)}`} />
        <g transform={`translate(${aside} ${down}) rotate(${turn})`}>
          <path className="axle" d={`M${-half} 0H${half}`} />
          <circle r="90" />
        </g>
        <circle className="plumb" r="34" />
        <text x={-half / 2 - 40} y={down / 2} textAnchor="end">
          {showValue(left ?? 0, long)} {long.symbol}
        </text>
        <text x={half / 2 + 40} y={down / 2}>
          {showValue(right ?? 0, long)} {long.symbol}
        </text>
        <text x={half + 60} y={down + 230} textAnchor="end" className="note">
          skew ×{DRAWN}
        </text>
      </svg>
      <WhatToMove />
    </section>
  );
}

function WhatToMove() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const value = (name: NumberName) => bench.figures[name]?.values?.[0];
  const fine = dictionary.shown('fine_dimension', bench.profile);
  const flats = dictionary.shown('flats', bench.profile);
  const behind = value('left_end_behind') ?? 0;
  const move = value('square_bar_move');
  const turned = value('square_flats');
  const side = behind > 0 ? 'left' : 'right';
  const other = side === 'left' ? 'right' : 'left';
  const say = (share: number) =>
    turned === undefined
      ? `${showValue(Math.abs(move ?? 0) * share, fine)} ${fine.symbol}`
      : `${showValue(Math.abs(turned) * share, { ...flats, precision: 0.25 })} flats`;
  if (Math.abs(behind) < SQUARE_ENOUGH) return <p>Square, within what a tape can show.</p>;
  const which = bench.rear_layout === 'triangulated_four_link' ? 'lower link' : 'links';
  return (
    <div>
      <p>
        The {side} end stands{' '}
        <b>
          {showValue(Math.abs(behind), fine)} {fine.symbol}
        </b>{' '}
        behind.
      </p>
      {move !== undefined && (
        <p>
          Shorten the {side} {which} by <b>{say(1)}</b>, upper and lower alike; or the {side} by{' '}
          {say(0.5)} and lengthen the {other} by as much.
        </p>
      )}
      {move !== undefined && Math.abs(move) > BEYOND_BARS && (
        <Notice>
          That is more than links are usually screwed: measure again, then look at the brackets.
        </Notice>
      )}
      <p className="hint">
        Pinion and preload are read again after. Diagonals are equal only where the axle is centred:
        its offset is in this.
      </p>
    </div>
  );
}
