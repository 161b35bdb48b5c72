/** The paper a plot is drawn on: its scales, the lines across it, and what stands along its edges. */
import { AxisBottom, AxisLeft } from '@visx/axis';
import { scaleLinear } from '@visx/scale';

export interface Paper {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

type Range = readonly [number, number];
type Scales = ReturnType<typeof scalesOf>;

export function scalesOf(paper: Paper, x: Range, y: Range) {
  return {
    x: scaleLinear({ domain: [...x], range: [paper.left, paper.width - paper.right] }),
    y: scaleLinear({ domain: [...y], range: [paper.height - paper.bottom, paper.top] }),
  };
}

interface Props {
  paper: Paper;
  scales: Scales;
  x: string;
  y: string;
  /** How many decimals the figures up the side have. */
  decimals?: number;
}

export function Axes({ paper, scales, x, y, decimals }: Props) {
  const right = paper.width - paper.right;
  const floor = paper.height - paper.bottom;
  const ticks = scales.y.ticks(5);
  // lines closer together than the figure is worth showing have decimals enough to tell them apart
  const apart = Math.ceil(-Math.log10((ticks[1] ?? 1) - (ticks[0] ?? 0)) - 1e-9);
  const places = decimals === undefined ? undefined : Math.max(decimals, apart);
  return (
    <>
      {ticks.map((tick) => (
        <path key={tick} className="grid" d={`M${paper.left} ${scales.y(tick)}H${right}`} />
      ))}
      <AxisLeft
        scale={scales.y}
        left={paper.left}
        numTicks={5}
        hideAxisLine
        hideTicks
        tickFormat={places === undefined ? undefined : (value) => Number(value).toFixed(places)}
        tickLabelProps={{ className: 'tick', textAnchor: 'end', dx: -4, dy: 4 }}
      />
      <AxisBottom
        scale={scales.x}
        top={floor}
        numTicks={5}
        hideTicks
        axisLineClassName="axis-line"
        tickLabelProps={{ className: 'tick', textAnchor: 'middle', dy: 2 }}
      />
      <text className="axis-name" x={paper.left - 32} y={paper.top - 10}>
        {y}
      </text>
      <text className="axis-name" x={right} y={paper.height - 6} textAnchor="end">
        {x}
      </text>
    </>
  );
}
