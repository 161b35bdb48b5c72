/** A plot: curves over one axis, booked in ink, drafted beside it; where the car stands is marked. */
import { AxisBottom, AxisLeft } from '@visx/axis';
import { scaleLinear } from '@visx/scale';
import { LinePath } from '@visx/shape';

const W = 460;
const H = 220;
const M = { left: 48, right: 16, top: 24, bottom: 40 };

export interface Line {
  label: string;
  drafted: boolean;
  /** Which of the curves it is, for its dash. */
  order: number;
  points: [number, number][];
}

interface Props {
  label: string;
  x: { name: string; here: number | null };
  y: { name: string };
  lines: Line[];
}

export function Plot({ label, x, y, lines }: Props) {
  const points = lines.flatMap((line) => line.points);
  if (points.length < 2) return null;
  const xs = points.map(([at]) => at);
  const ys = points.map(([, at]) => at);
  const across = scaleLinear({
    domain: [Math.min(...xs), Math.max(...xs)],
    range: [M.left, W - M.right],
  });
  const span = Math.max(...ys) - Math.min(...ys) || Math.abs(ys[0] ?? 1) || 1;
  const up = scaleLinear({
    domain: [Math.min(...ys) - 0.06 * span, Math.max(...ys) + 0.06 * span],
    range: [H - M.bottom, M.top],
  });
  return (
    <figure className="chart plot">
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={label}>
        {up.ticks(5).map((tick) => (
          <path key={tick} className="grid" d={`M${M.left} ${up(tick)}H${W - M.right}`} />
        ))}
        <AxisLeft
          scale={up}
          left={M.left}
          numTicks={5}
          hideAxisLine
          hideTicks
          tickLabelProps={{ className: 'tick', textAnchor: 'end', dx: -4, dy: 4 }}
        />
        <AxisBottom
          scale={across}
          top={H - M.bottom}
          numTicks={6}
          hideTicks
          axisLineClassName="axis-line"
          tickLabelProps={{ className: 'tick', textAnchor: 'middle', dy: 2 }}
        />
        <text className="axis-name" x={M.left - 4} y={M.top - 8} textAnchor="end">
          {y.name}
        </text>
        <text className="axis-name" x={W - M.right} y={H - 6} textAnchor="end">
          {x.name}
        </text>
        {x.here !== null && (
          <path className="stands" d={`M${across(x.here)} ${M.top}V${H - M.bottom}`}>
            <title>where the car is looked at now</title>
          </path>
        )}
        {lines.map((line) => (
          <LinePath
            key={`${line.label}-${String(line.drafted)}`}
            className={`curve curve-${line.order % 3}${line.drafted ? ' is-drafted' : ''}`}
            data={line.points}
            x={([at]) => across(at)}
            y={([, at]) => up(at)}
          />
        ))}
      </svg>
      <figcaption>
        {lines
          .filter((line) => !line.drafted)
          .map((line) => (
            <span key={line.label} className={`key curve-${line.order % 3}`}>
              <svg viewBox="0 0 26 6" aria-hidden="true">
                <path className={`curve curve-${line.order % 3}`} d="M0 3H26" />
              </svg>
              {line.label}
            </span>
          ))}
        {lines.some((line) => line.drafted) && <span className="drafted">after the slip</span>}
      </figcaption>
    </figure>
  );
}
