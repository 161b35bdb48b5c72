/** An axle from behind or from its left, to scale, at one place of its sweep; booked and drafted. */
import type { Schemas } from '../lib/client';

type Swept = Schemas['SweptView'];
type Stick = Schemas['StickView'];

export type View = 'behind' | 'side';

/** Millimetres on paper for a metre of the car. */
const SCALE = 1000;
const up = (height: number) => -height * SCALE;

/** From behind the car's left is on the left; from its left side the nose is. */
function across(view: View, [ahead = 0, left = 0]: number[]): number {
  return -(view === 'behind' ? left : ahead) * SCALE;
}

interface Props {
  booked: Swept;
  drafted: Swept | null;
  /** Which of the states is looked at. */
  at: number;
  view: View;
  label: string;
}

export function AxleView({ booked, drafted, at, view, label }: Props) {
  const { left, right, top } = paperOf(booked, view, at);
  return (
    <svg
      className="axle-view"
      viewBox={`${left} ${up(top + 0.06)} ${right - left} ${(top + 0.16) * SCALE}`}
      role="img"
      aria-label={label}
    >
      <path className="ground" d={`M${left} 0H${right}`} />
      <path className="centre" d={`M0 0V${up(top)}`} />
      {view === 'behind' ? <Lines one={booked} at={at} /> : <SideLine one={booked} at={at} />}
      <Axle one={booked} at={at} view={view} />
      {drafted && (
        <g className="is-drafted">
          <Axle one={drafted} at={at} view={view} />
        </g>
      )}
      <text className="side-name" x={left + 20} y={up(top) + 40}>
        {view === 'behind' ? 'left' : 'nose'}
      </text>
      {view === 'behind' && (
        <text className="side-name" x={right - 20} y={up(top) + 40} textAnchor="end">
          right
        </text>
      )}
    </svg>
  );
}

/** The edges of the paper: the wheels and every point, and an instant centre that is not far off. */
function paperOf(one: Swept, view: View, at: number) {
  const points = one.sticks.flatMap((stick) => stick.points[at] ?? []);
  const discs = one.discs.flatMap((disc) => {
    const centre = disc.centre[at] ?? [];
    const wide = view === 'side' ? disc.radius * SCALE : 0;
    return [across(view, centre) - wide, across(view, centre) + wide];
  });
  const centre = view === 'side' ? one.side_centre[at] : null;
  const near = centre && Math.abs(centre[0] ?? 0) < 3 ? [across(view, [centre[0] ?? 0])] : [];
  const xs = [...points.map((point) => across(view, point)), ...discs, ...near];
  const half = Math.max(...xs.map(Math.abs)) + 220;
  return {
    left: view === 'behind' ? -half : Math.min(...xs) - 120,
    right: view === 'behind' ? half : Math.max(...xs) + 120,
    top: Math.max(0.7, ...points.map((point) => point[2] ?? 0)),
  };
}

/** From the left contact, or the axle's, to the instant centre of the side view. */
function SideLine({ one, at }: { one: Swept; at: number }) {
  const centre = one.side_centre[at];
  const wheel = one.discs[0]?.centre[at];
  if (!centre || !wheel) return null;
  const [x, y] = [across('side', centre), up(centre[1] ?? 0)];
  return (
    <g className="lines-to-centre">
      <path d={`M${across('side', wheel)} 0L${x} ${y}`} />
      <circle className="roll-centre" cx={x} cy={y} r="16" />
    </g>
  );
}

/** From each contact towards its instant centre, and where both cross the centre plane. */
function Lines({ one, at }: { one: Swept; at: number }) {
  const height = one.roll_centre[at] ?? 0;
  return (
    <g className="lines-to-centre">
      {one.discs.map((disc, i) => {
        const centre = one.centres[i]?.[at];
        const foot = lowest(disc, at);
        if (!centre || !foot) return null;
        const far = [centre[0] ?? 0, centre[1] ?? 0] as const;
        return (
          <path
            key={disc.side}
            d={`M${-foot[0] * SCALE} ${up(foot[1])}L${-far[0] * SCALE} ${up(far[1])}`}
          />
        );
      })}
      <circle className="roll-centre" cx="0" cy={up(height)} r="16" />
      <path
        className="roll-centre"
        d={`M-26 ${up(height)}H26M0 ${up(height) - 26}V${up(height) + 26}`}
      />
    </g>
  );
}

interface AxleProps {
  one: Swept;
  at: number;
  view: View;
}

function Axle({ one, at, view }: AxleProps) {
  return (
    <>
      {one.discs.map((disc) => (
        <Wheel key={disc.side} disc={disc} at={at} view={view} />
      ))}
      {one.sticks.map((stick) => (
        <Line key={stick.side + stick.name} stick={stick} at={at} view={view} />
      ))}
    </>
  );
}

function Line({ stick, at, view }: { stick: Stick; at: number; view: View }) {
  const points = (stick.points[at] ?? []).map(
    (point) => [across(view, point), up(point[2] ?? 0)] as const,
  );
  const bushes = stick.name === 'kingpin' ? [] : points;
  return (
    <g className={`stick stick-${stick.name.replaceAll(' ', '_')}`}>
      <path d={`M${points.map((point) => point.join(' ')).join('L')}`}>
        <title>{`${stick.name.replaceAll('_', ' ')}, ${stick.side}`}</title>
      </path>
      {bushes.map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r="8" />
      ))}
    </g>
  );
}

interface WheelProps {
  disc: Schemas['DiscView'];
  at: number;
  view: View;
}

/** The wheel as a disc: on its edge from behind, round from the side. */
function Wheel({ disc, at, view }: WheelProps) {
  const centre = disc.centre[at];
  const foot = lowest(disc, at);
  if (!centre || !foot) return null;
  const [, left = 0, height = 0] = centre;
  if (view === 'side')
    return disc.side === 'left' ? (
      <circle
        className="wheel-round"
        cx={across(view, centre)}
        cy={up(height)}
        r={disc.radius * SCALE}
      />
    ) : null;
  const [x, over] = [-foot[0] * SCALE, -(2 * left - foot[0]) * SCALE];
  return (
    <path className="wheel-edge" d={`M${x} ${up(foot[1])}L${over} ${up(2 * height - foot[1])}`} />
  );
}

/** The lowest point of a disc: left of the centre, and above the ground [m]. */
function lowest(disc: Schemas['DiscView'], at: number): [number, number] | null {
  const centre = disc.centre[at];
  const axis = disc.axis[at];
  if (!centre || !axis) return null;
  const [, left = 0, height = 0] = centre;
  const [, out = 0, lean = 0] = axis;
  const flat = Math.sqrt(1 - lean * lean) || 1;
  return [left + (disc.radius * lean * out) / flat, height - disc.radius * flat];
}
