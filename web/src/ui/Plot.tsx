/**
 * A plot: curves over one axis, booked in ink, drafted beside it; where the car stands is marked. It is
 * read at a place by pointer or arrow keys, and has its figures behind it as a table and a CSV file.
 */
import { LinePath } from '@visx/shape';
import { useState, type PointerEvent } from 'react';
import { showValue } from '../lib/format';
import { Axes, scalesOf } from './Axes';
import { PlotTable } from './PlotTable';
import { valueAt, type AxisOf, type Line, type Mark } from './plotValues';

const PAPER = { width: 460, height: 220, left: 48, right: 16, top: 24, bottom: 40 };
/** What the names of a family of curves need at the right edge. */
const NAMED = 30;

interface Props {
  label: string;
  x: AxisOf & { here?: number | null };
  y: AxisOf;
  lines: Line[];
  marks?: Mark[];
}

/** Where SI figures fall on the paper, and from where to where the curves go. */
function layOut({ x, y, lines }: Props) {
  const points = lines.flatMap((line) => line.points);
  const paper = lines.some((line) => line.faint) ? { ...PAPER, right: PAPER.right + NAMED } : PAPER;
  const toX = (si: number) => si * x.shown.factor + x.shown.offset;
  const toY = (si: number) => si * y.shown.factor + y.shown.offset;
  const xs = points.map(([at]) => at);
  const ys = points.map(([, at]) => toY(at));
  const [low, high] = [Math.min(...xs), Math.max(...xs)];
  const [least, most] = [Math.min(...ys), Math.max(...ys)];
  const air = 0.06 * (most - least || Math.abs(least) || 1);
  const scales = scalesOf(paper, [toX(low), toX(high)], [least - air, most + air]);
  return {
    paper,
    scales,
    low,
    high,
    x: (si: number) => scales.x(toX(si)),
    y: (si: number) => scales.y(toY(si)),
  };
}

type Layout = ReturnType<typeof layOut>;

export function Plot(props: Props) {
  const { label, x, y, lines, marks = [] } = props;
  const [read, setRead] = useState<number | null>(null);
  if (lines.flatMap((line) => line.points).length < 2) return null;
  const layout = layOut(props);
  const { paper, scales } = layout;
  const told = lines.filter((line) => !line.faint);
  const readings = told
    .map((line) => ({ line, value: read === null ? null : valueAt(line.points, read) }))
    .filter((one) => one.value !== null);
  return (
    <figure className="chart plot">
      <div className="plot-paper">
        <svg viewBox={`0 0 ${PAPER.width} ${PAPER.height}`} role="img" aria-label={label}>
          <Axes
            paper={paper}
            scales={scales}
            x={inUnit(x)}
            y={inUnit(y)}
            {...(y.shown.precision >= 1 ? { decimals: 0 } : {})}
          />
          {typeof x.here === 'number' && (
            <Upright at={layout.x(x.here)} kind="stands" words="where the car is looked at now" />
          )}
          <Marks marks={marks} layout={layout} />
          <Curves lines={lines} layout={layout} />
          {read !== null && <Upright at={layout.x(read)} kind="read-line" words="" />}
        </svg>
        <Reader plot={props} layout={layout} read={read} readings={readings} setRead={setRead} />
      </div>
      <figcaption>
        {told
          .filter((line) => line.label && !line.drafted)
          .map((line) => (
            <span key={line.label} className={`key curve-${line.order % 6}`}>
              <svg viewBox="0 0 26 6" aria-hidden="true">
                <path className={`curve curve-${line.order % 6}`} d="M0 3H26" />
              </svg>
              {line.label}
            </span>
          ))}
        {lines.some((line) => line.drafted) && <span className="drafted">after the slip</span>}
        {read !== null && (
          <span className="plot-readout">
            at {showValue(read, x.shown)} {x.shown.symbol}:{' '}
            {readings.map(({ line, value }) => (
              <b key={line.label + String(line.drafted)} className={line.drafted ? 'drafted' : ''}>
                {showValue(value ?? 0, y.shown)}{' '}
              </b>
            ))}
            {y.shown.symbol}
          </span>
        )}
      </figcaption>
      <PlotTable label={label} x={x} y={y} lines={lines} />
    </figure>
  );
}

interface ReaderProps {
  plot: Props;
  layout: Layout;
  read: number | null;
  readings: { line: Line; value: number | null }[];
  setRead: (at: number | null) => void;
}

/** The curves read at a place: by the pointer, by keys and by ear. */
function Reader({ plot, layout, read, readings, setRead }: ReaderProps) {
  const { label, x, y } = plot;
  const { paper, low, high } = layout;
  const [left, right] = [paper.left, paper.width - paper.right];
  const at = read ?? x.here ?? low;
  const point = (event: PointerEvent<HTMLInputElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = Math.min(1, Math.max(0, (event.clientX - box.left) / (box.width || 1)));
    setRead(low + share * (high - low));
  };
  return (
    <input
      type="range"
      className="plot-read"
      style={{
        left: `${(100 * left) / PAPER.width}%`,
        width: `${(100 * (right - left)) / PAPER.width}%`,
      }}
      aria-label={`Read ${label.charAt(0).toLowerCase()}${label.slice(1)} at`}
      aria-valuetext={`${showValue(at, x.shown)} ${x.shown.symbol}: ${readings
        .map(({ line, value }) => `${line.label} ${showValue(value ?? 0, y.shown)}`)
        .join(', ')}`}
      min={low}
      max={high}
      step={(high - low) / 100}
      value={at}
      onChange={(event) => setRead(Number(event.target.value))}
      onPointerMove={point}
      onPointerLeave={() => setRead(null)}
      onBlur={() => setRead(null)}
    />
  );
}

/** Places with a name, such as ride height; their names one under another. */
function Marks({ marks, layout }: { marks: Mark[]; layout: Layout }) {
  const { low, high } = layout;
  return marks
    .filter((mark) => mark.at >= low && mark.at <= high)
    .toSorted((a, b) => a.at - b.at)
    .map((mark, i) => {
      const isRight = mark.at > (low + high) / 2;
      return (
        <g
          key={mark.label + String(mark.drafted)}
          className={mark.drafted ? 'mark is-drafted' : 'mark'}
        >
          <Upright at={layout.x(mark.at)} kind="mark-line" words={mark.label} />
          <text
            x={layout.x(mark.at) + (isRight ? -3 : 3)}
            y={PAPER.top + 8 + 12 * (i % 4)}
            textAnchor={isRight ? 'end' : 'start'}
          >
            {mark.label}
          </text>
        </g>
      );
    });
}

/** A family's members behind, the told curves before them. */
function Curves({ lines, layout }: { lines: Line[]; layout: Layout }) {
  const x = ([across]: [number, number]) => layout.x(across);
  const y = ([, up]: [number, number]) => layout.y(up);
  return (
    <>
      {lines
        .filter((line) => line.faint)
        .map((line) => (
          <g key={line.label} className="family">
            <LinePath data={line.points} x={x} y={y} />
            <FamilyName line={line} x={layout.x} y={layout.y} />
          </g>
        ))}
      {lines
        .filter((line) => !line.faint)
        .map((line) => (
          <LinePath
            key={`${line.label}-${String(line.drafted)}`}
            className={`curve curve-${line.order % 6}${line.drafted ? ' is-drafted' : ''}`}
            data={line.points}
            x={x}
            y={y}
          />
        ))}
    </>
  );
}

/** The number of a family's member, such as its click, where its line ends. */
function FamilyName({
  line,
  x,
  y,
}: {
  line: Line;
  x: (si: number) => number;
  y: (si: number) => number;
}) {
  const last = line.points.at(-1);
  const number = line.label.split(' ').at(-1) ?? '';
  if (!last || !/^\d/.test(number)) return null;
  return (
    <text x={x(last[0]) + 2} y={y(last[1]) + 3}>
      {number}
    </text>
  );
}

function Upright({ at, kind, words }: { at: number; kind: string; words: string }) {
  return (
    <path className={kind} d={`M${at} ${PAPER.top}V${PAPER.height - PAPER.bottom}`}>
      {words && <title>{words}</title>}
    </path>
  );
}

function inUnit({ name, shown }: AxisOf): string {
  return [name, shown.symbol].filter(Boolean).join(', ');
}
