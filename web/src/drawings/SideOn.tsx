/** The car from its side, nose to the right: the whole car, and its link bars near by with every hole. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Schemas } from '../lib/client';

type Side = Schemas['SideOnView'];
type Holes = Schemas['HolesView'];
type State = Schemas['SideStateView'];

/** Millimetres on paper for a metre of the car. */
const MM = 1000;
/** An instant centre past the nose by more than this is pointed at, not drawn [m]. */
const FAR = 1.2;
const at = (x = 0, z = 0) => `${x * MM} ${-z * MM}`;

interface Props {
  booked: Side;
  drafted: Side | null;
  /** Which of the travels is looked at. */
  state: number;
  label: string;
}

interface WholeProps extends Props {
  /** Where the centre of gravity is, ahead of the rear axle [m]. */
  cgAhead: number;
}

/** To scale from wheel to wheel: centre of gravity with what it is good to, instant centre, 100 % line. */
export function WholeCar({ booked, drafted, state, label, cgAhead }: WholeProps) {
  const base = booked.wheelbase;
  const [front = 0.3, rear = 0.3] = booked.radii;
  const top = Math.max(booked.cg_height + booked.cg_error, 2 * front, 2 * rear) + 0.12;
  const left = -rear - 0.12;
  const wide = base + front + 0.12 - left;
  const now = booked.states[state];
  const then = drafted?.states[state];
  return (
    <svg
      className="side-on"
      viewBox={`${left * MM} ${-top * MM} ${wide * MM} ${(top + 0.16) * MM}`}
      role="img"
      aria-label={label}
    >
      <path className="ground" d={`M${left * MM} 0H${(left + wide) * MM}`} />
      <circle className="tyre" cx={(now?.shift ?? 0) * MM} cy={-rear * MM} r={rear * MM} />
      <circle className="tyre" cx={base * MM} cy={-front * MM} r={front * MM} />
      <path className="hundred" d={`M0 0L${at(base, booked.cg_height)}`} />
      <text className="hundred-name" x={0.66 * base * MM} y={-0.66 * booked.cg_height * MM + 90}>
        100 % anti-squat
      </text>
      <g className="cg-band" transform={`translate(${cgAhead * MM} ${-booked.cg_height * MM})`}>
        <path d={`M0 ${-booked.cg_error * MM}V${booked.cg_error * MM}`} />
        <path d={`M-30 ${-booked.cg_error * MM}H30M-30 ${booked.cg_error * MM}H30`} />
        <circle r="34" />
        <path className="quarter" d="M0 0V-34A34 34 0 0 1 34 0ZM0 0V34A34 34 0 0 1-34 0Z" />
      </g>
      {now && <Lines of={now} base={base} />}
      {then && (
        <g className="is-drafted">
          <Lines of={then} base={base} />
        </g>
      )}
    </svg>
  );
}

/** The bars, the lines on to where they meet, and the line from the tyre's foot to there. */
function Lines({ of, base }: { of: State; base: number }) {
  const centre = of.centre;
  const [ahead = Infinity, high = 0] = centre ?? [];
  const drawn = ahead > -1 && ahead < base + FAR;
  return (
    <>
      {of.bars.map(([axle = [], chassis = []], i) => {
        const from = at((axle[0] ?? 0) + of.shift, axle[1]);
        return (
          <g key={i}>
            <path
              className="bar-line"
              d={`M${from}L${at((chassis[0] ?? 0) + of.shift, chassis[1])}`}
            />
            {drawn && <path className="to-centre" d={`M${from}L${at(ahead + of.shift, high)}`} />}
          </g>
        );
      })}
      {drawn && (
        <>
          <path className="squat-line" d={`M${at(of.shift, 0)}L${at(ahead + of.shift, high)}`} />
          <circle className="centre" cx={(ahead + of.shift) * MM} cy={-high * MM} r="20" />
        </>
      )}
    </>
  );
}

interface BarsProps extends Props {
  /** A hole pressed, dragged to or stepped to; absent where this person may not. */
  pick?: ((setting: string, hole: number) => void) | undefined;
}

/** The bars with every hole of their brackets: a bolt is dragged, pressed or stepped to another hole. */
export function Bars({ booked, drafted, state, label, pick }: BarsProps) {
  const sheet = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ place: string; over: number } | null>(null);
  const now = booked.states[state];
  const then = drafted?.states[state];
  if (!now) return null;
  const atRide = Math.abs(now.travel) < 1e-9;
  const points = [...booked.holes.flatMap((one) => one.holes), ...now.bars.flat()];
  const xs = points.map(([x = 0]) => x);
  const zs = points.map(([, z = 0]) => z);
  const [left, right] = [Math.min(...xs) - 0.16, Math.max(...xs) + 0.2];
  const [low, top] = [Math.min(...zs) - 0.06, Math.max(...zs) + 0.06];
  const shown = drafted ?? booked;
  const nearest = (one: Holes, event: PointerEvent) => {
    const matrix = sheet.current?.getScreenCTM();
    if (!matrix) return one.here ?? 0;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const off = one.holes.map(([x = 0, z = 0]) => Math.hypot(x * MM - p.x, -z * MM - p.y));
    return off.indexOf(Math.min(...off));
  };
  return (
    <svg
      ref={sheet}
      className="side-on side-bars"
      viewBox={`${left * MM} ${-top * MM} ${(right - left) * MM} ${(top - low) * MM}`}
      role="group"
      aria-label={label}
    >
      <circle
        className="tyre"
        cx={now.shift * MM}
        cy={-(booked.radii[1] ?? 0) * MM}
        r={(booked.radii[1] ?? 0) * MM}
      />
      <circle className="hub" cx={now.shift * MM} cy={-(booked.radii[1] ?? 0) * MM} r="14" />
      <Lines of={now} base={booked.wheelbase} />
      {then && (
        <g className="is-drafted">
          <Lines of={then} base={booked.wheelbase} />
        </g>
      )}
      {(!atRide || booked.holes.length === 0) &&
        now.bars
          .flat()
          .map(([x = 0, z = 0], i) => (
            <circle key={i} className="bolt" cx={(x + now.shift) * MM} cy={-z * MM} r="6" />
          ))}
      {atRide &&
        shown.holes.map((one, i) => (
          <Bracket
            key={one.place}
            of={one}
            was={booked.holes[i]?.here ?? null}
            over={held?.place === one.place ? held.over : null}
            pick={one.setting && pick ? (hole) => pick(one.setting, hole) : undefined}
            grab={(event) => {
              if (!one.setting || !pick) return;
              event.currentTarget.setPointerCapture(event.pointerId);
              setHeld({ place: one.place, over: nearest(one, event) });
            }}
            drag={(event) => {
              if (held?.place === one.place)
                setHeld({ place: one.place, over: nearest(one, event) });
            }}
            drop={() => {
              if (held?.place === one.place && pick && held.over !== one.here)
                pick(one.setting, held.over);
              setHeld(null);
            }}
          />
        ))}
    </svg>
  );
}

interface BracketProps {
  of: Holes;
  was: number | null;
  over: number | null;
  pick?: ((hole: number) => void) | undefined;
  grab: (event: PointerEvent<SVGGElement>) => void;
  drag: (event: PointerEvent<SVGGElement>) => void;
  drop: () => void;
}

function Bracket({ of, was, over, pick, grab, drag, drop }: BracketProps) {
  const xs = of.holes.map(([x = 0]) => x * MM);
  const zs = of.holes.map(([, z = 0]) => -z * MM);
  const [left, top] = [Math.min(...xs) - 13, Math.min(...zs) - 13];
  const [wide, high] = [Math.max(...xs) + 13 - left, Math.max(...zs) + 13 - top];
  const step = (event: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (by === undefined || !pick) return;
    event.preventDefault();
    // holes are counted from the lowest
    const order = of.holes.map((_, i) => i).toSorted((a, b) => (zs[b] ?? 0) - (zs[a] ?? 0));
    // where none is set yet the first press takes the lowest
    const next = of.here === null ? order[0] : order[order.indexOf(of.here) + by];
    if (next !== undefined) pick(next);
  };
  const name = `${of.place} hole`;
  return (
    <g
      className={`bracket${pick ? ' is-free' : ''}`}
      onPointerDown={grab}
      onPointerMove={drag}
      onPointerUp={drop}
      {...(pick
        ? {
            role: 'slider',
            tabIndex: 0,
            'aria-label': `${name}: arrow keys move the bolt`,
            'aria-valuemin': 1,
            'aria-valuemax': of.holes.length,
            'aria-valuenow': (of.here ?? 0) + 1,
            'aria-valuetext':
              of.here === null ? 'not set' : `hole ${of.here + 1} of ${of.holes.length}`,
            onKeyDown: step,
          }
        : {})}
    >
      <rect className="plate" x={left} y={top} width={wide} height={high} rx="13" />
      {of.holes.map(([x = 0, z = 0], i) => (
        <circle
          key={i}
          className={holeClass(i, of.here, was, over)}
          cx={x * MM}
          cy={-z * MM}
          r={i === of.here || i === over ? 7 : 5.5}
        >
          <title>{`${name} ${i + 1} of ${of.holes.length}`}</title>
        </circle>
      ))}
    </g>
  );
}

function holeClass(
  i: number,
  here: number | null,
  was: number | null,
  over: number | null,
): string {
  if (over !== null) return i === over ? 'hole is-drafted' : 'hole';
  if (i === here) return here === was ? 'hole is-here' : 'hole is-drafted';
  return i === was ? 'hole was-here' : 'hole';
}
