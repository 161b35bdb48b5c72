/** A plot: curves over one axis, booked in ink, drafted beside it; where the car stands is marked. */
import { LinePath } from '@visx/shape';
import { Axes, scalesOf } from './Axes';

const PAPER = { width: 460, height: 220, left: 48, right: 16, top: 24, bottom: 40 };

export interface Line {
  /** Empty where the heading over the plot says it already. */
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
  const span = Math.max(...ys) - Math.min(...ys) || Math.abs(ys[0] ?? 1) || 1;
  const scales = scalesOf(
    PAPER,
    [Math.min(...xs), Math.max(...xs)],
    [Math.min(...ys) - 0.06 * span, Math.max(...ys) + 0.06 * span],
  );
  return (
    <figure className="chart plot">
      <svg viewBox={`0 0 ${PAPER.width} ${PAPER.height}`} role="img" aria-label={label}>
        <Axes paper={PAPER} scales={scales} x={x.name} y={y.name} />
        {x.here !== null && (
          <path
            className="stands"
            d={`M${scales.x(x.here)} ${PAPER.top}V${PAPER.height - PAPER.bottom}`}
          >
            <title>where the car is looked at now</title>
          </path>
        )}
        {lines.map((line) => (
          <LinePath
            key={`${line.label}-${String(line.drafted)}`}
            className={`curve curve-${line.order % 3}${line.drafted ? ' is-drafted' : ''}`}
            data={line.points}
            x={([at]) => scales.x(at)}
            y={([, at]) => scales.y(at)}
          />
        ))}
      </svg>
      <figcaption>
        {lines
          .filter((line) => line.label && !line.drafted)
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
