/** An axle from behind, to scale, at one place of its sweep: links, wheels, centres; booked and drafted. */
import type { Schemas } from '../lib/client';

type Swept = Schemas['SweptView'];
type Stick = Schemas['StickView'];

/** Millimetres on paper for a metre of the car; from behind, the left of the car is on the left. */
const SCALE = 1000;
const across = (left: number) => -left * SCALE;
const up = (height: number) => -height * SCALE;

interface Props {
  booked: Swept;
  drafted: Swept | null;
  /** Which of the states is looked at. */
  at: number;
  label: string;
}

export function AxleView({ booked, drafted, at, label }: Props) {
  const edge = Math.max(...booked.discs.map((disc) => Math.abs(disc.centre[at]?.[1] ?? 0)));
  const half = (edge + 0.22) * SCALE;
  const top = Math.max(
    0.7,
    ...booked.sticks.flatMap((stick) => stick.points[at]?.map((point) => point[2] ?? 0) ?? []),
  );
  return (
    <svg
      className="axle-view"
      viewBox={`${-half} ${up(top + 0.06)} ${2 * half} ${(top + 0.16) * SCALE}`}
      role="img"
      aria-label={label}
    >
      <path className="ground" d={`M${-half} 0H${half}`} />
      <path className="centre" d={`M0 0V${up(top)}`} />
      <Lines one={booked} at={at} />
      <Axle one={booked} at={at} />
      {drafted && (
        <g className="is-drafted">
          <Axle one={drafted} at={at} />
        </g>
      )}
      <text className="side-name" x={-half + 20} y={up(top) + 40}>
        left
      </text>
      <text className="side-name" x={half - 20} y={up(top) + 30} textAnchor="end">
        right
      </text>
    </svg>
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
            d={`M${across(foot[0])} ${up(foot[1])}L${across(far[0])} ${up(far[1])}`}
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

function Axle({ one, at }: { one: Swept; at: number }) {
  return (
    <>
      {one.discs.map((disc) => (
        <Wheel key={disc.side} disc={disc} at={at} />
      ))}
      {one.sticks.map((stick) => (
        <Line key={stick.side + stick.name} stick={stick} at={at} />
      ))}
    </>
  );
}

function Line({ stick, at }: { stick: Stick; at: number }) {
  const points = (stick.points[at] ?? []).map(
    ([, left, height]) => [across(left ?? 0), up(height ?? 0)] as const,
  );
  const bushes = stick.name === 'kingpin' ? [] : points;
  return (
    <g className={`stick stick-${stick.name}`}>
      <path d={`M${points.map((point) => point.join(' ')).join('L')}`}>
        <title>{`${stick.name.replaceAll('_', ' ')}, ${stick.side}`}</title>
      </path>
      {bushes.map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r="8" />
      ))}
    </g>
  );
}

/** The wheel as a disc seen on its edge. */
function Wheel({ disc, at }: { disc: Schemas['DiscView']; at: number }) {
  const centre = disc.centre[at];
  const foot = lowest(disc, at);
  if (!centre || !foot) return null;
  const [, left = 0, height = 0] = centre;
  return (
    <path
      className="wheel-edge"
      d={`M${across(foot[0])} ${up(foot[1])}L${across(2 * left - foot[0])} ${up(2 * height - foot[1])}`}
    />
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
