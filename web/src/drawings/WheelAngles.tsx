/** The wheels' angles on the car: toe and thrust line from above, camber from behind, both overdrawn. */
import { useBench, valueAt, valuesOf } from '../bench/bench';
import { settingOf, useSlip } from '../bench/slip';
import type { NumberName } from '../lib/client';
import { showValue } from '../lib/format';
import { CORNERS, useDictionary } from '../lib/vocabulary';
import { wheels } from './CarOutline';
import { planOf, WHEEL, type Plan } from './outline';

const TOE_DRAWN = 12;
const CAMBER_DRAWN = 4;
const DEGREES = 180 / Math.PI;

interface Angles {
  booked: (number | undefined)[];
  now: (number | undefined)[];
}

/** What each wheel is set to, booked and with the slip; what was read where nobody set it [rad]. */
function useAngles(name: NumberName): Angles {
  const { bench } = useBench();
  const { wish } = useSlip();
  const places = useDictionary().places(name);
  const booked = CORNERS.map((_, i) => valueAt(bench, name, i));
  const now = CORNERS.map((place, i) => {
    const { value, drafted } = settingOf(bench, wish, places, name, place);
    return drafted && typeof value === 'number' ? value : booked[i];
  });
  return { booked, now };
}

export function WheelAngles() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const toe = useAngles('toe');
  const camber = useAngles('camber');
  const plan = planOf(valueAt(bench, 'wheelbase') ?? 2.5, valuesOf(bench, 'track') ?? [1.5, 1.5]);
  const radii = valuesOf(bench, 'loaded_radius') ?? [0.31, 0.31];
  const half = plan.width / 2 + 260;
  const below = plan.wheelbase + 400;
  const high = 2 * Math.max(...radii) * 1000 + 330;
  const angle = dictionary.shown('fine_angle', bench.profile);
  const said = (name: string, angles: Angles) =>
    CORNERS.map((place, i) => {
      const value = angles.now[i];
      return `${name} ${place} ${value === undefined ? 'not known' : showValue(value, angle)}`;
    }).join(', ');
  return (
    <svg
      className="car-plan wheel-angles"
      viewBox={`${-half} ${-560} ${half * 2} ${560 + below + 2 * high}`}
      role="img"
      aria-label={`The wheels' angles. ${said('Toe', toe)}; ${said('camber', camber)} ${angle.symbol}`}
    >
      <text x={-half + 20} y={-480}>
        toe, drawn ×{TOE_DRAWN}
      </text>
      <path
        className="axle"
        d={`M${-plan.front / 2} 0H${plan.front / 2}M0 0V${plan.wheelbase}M${-plan.rear / 2} ${plan.wheelbase}H${plan.rear / 2}`}
      />
      <FromAbove plan={plan} toe={toe.booked} />
      {toe.now.some((one, i) => one !== toe.booked[i]) && (
        <FromAbove plan={plan} toe={toe.now} drafted />
      )}
      {(['front', 'rear'] as const).map((axle, i) => (
        <g key={axle} transform={`translate(0 ${below + (i + 1) * high - 130})`}>
          <text x={-half + 20} y={-high + 270}>
            {axle} from behind, camber ×{CAMBER_DRAWN}
          </text>
          <path className="ground" d={`M${-half + 20} 0H${half - 20}`} />
          <FromBehind plan={plan} axle={i} camber={camber.booked} radius={radii[i] ?? 0.31} />
          {[0, 1].some((side) => camber.now[2 * i + side] !== camber.booked[2 * i + side]) && (
            <FromBehind
              plan={plan}
              axle={i}
              camber={camber.now}
              radius={radii[i] ?? 0.31}
              drafted
            />
          )}
        </g>
      ))}
    </svg>
  );
}

interface FromAboveProps {
  plan: Plan;
  toe: (number | undefined)[];
  drafted?: boolean;
}

function FromAbove({ plan, toe, drafted = false }: FromAboveProps) {
  const [, , lr, rr] = toe;
  const thrust = lr !== undefined && rr !== undefined ? (rr - lr) / 2 : 0;
  const aside = Math.tan(Math.max(-1, Math.min(1, thrust * TOE_DRAWN))) * plan.wheelbase;
  return (
    <g className={drafted ? 'is-drafted' : undefined}>
      {wheels(plan).map(([x, y], i) => (
        <rect
          key={CORNERS[i]}
          className={toe[i] === undefined ? 'wheel is-unknown' : 'wheel'}
          x={x - WHEEL.width / 2}
          y={y - WHEEL.length / 2}
          width={WHEEL.width}
          height={WHEEL.length}
          rx="46"
          transform={`rotate(${(i % 2 ? -1 : 1) * (toe[i] ?? 0) * TOE_DRAWN * DEGREES} ${x} ${y})`}
        />
      ))}
      {Math.abs(thrust) > 1e-6 && (
        <path className="thrust" d={`M0 ${plan.wheelbase}L${-aside} 0`}>
          <title>thrust line</title>
        </path>
      )}
    </g>
  );
}

interface FromBehindProps {
  plan: Plan;
  axle: number;
  camber: (number | undefined)[];
  radius: number;
  drafted?: boolean;
}

function FromBehind({ plan, axle, camber, radius, drafted = false }: FromBehindProps) {
  const track = axle === 0 ? plan.front : plan.rear;
  return (
    <g className={drafted ? 'is-drafted' : undefined}>
      {[-1, 1].map((side, i) => {
        const value = camber[2 * axle + i];
        const x = (side * track) / 2;
        return (
          <rect
            key={side}
            className={value === undefined ? 'wheel is-unknown' : 'wheel'}
            x={x - WHEEL.width / 2}
            y={-radius * 2000}
            width={WHEEL.width}
            height={radius * 2000}
            rx="40"
            transform={`rotate(${side * (value ?? 0) * CAMBER_DRAWN * DEGREES} ${x} 0)`}
          />
        );
      })}
    </g>
  );
}
