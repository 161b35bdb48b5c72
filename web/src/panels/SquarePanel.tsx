/** The axle in plan against the plumb point's diagonals, its skew overdrawn, and the bars to move. */
import { useQuery } from '@tanstack/react-query';
import { useBench, valueAt } from '../bench/bench';
import type { NumberName } from '../lib/client';
import { showValue } from '../lib/format';
import { squareQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';

/** The skew is drawn so many times larger. */
const DRAWN = 15;
export function SquarePanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const value = (name: NumberName, at = 0) => valueAt(bench, name, at);
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
  const found = useQuery(squareQuery(bench.id));
  return (
    <div>
      {found.data?.says.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      <p className="hint">
        Read pinion and preload again after. Diagonals are equal only where the axle is centred: its
        offset is counted in.
      </p>
    </div>
  );
}
