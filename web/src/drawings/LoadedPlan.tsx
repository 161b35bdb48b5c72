/** The car from above under load: a disc at each wheel as large as what it carries, booked and drafted. */
import type { Schemas } from '../lib/client';
import { useBench, valueAt, valuesOf } from '../bench/bench';
import { showValue } from '../lib/format';
import { CORNERS, useDictionary } from '../lib/vocabulary';
import { wheels } from './CarOutline';
import { bodyPath, planOf, WHEEL } from './outline';

type Case = Schemas['LoadCaseView'];

/** Radius of a disc that carries a quarter of the car [mm of the drawing]. */
const EVEN = 430;

interface Props {
  booked: Case;
  drafted: Case | null;
  label: string;
}

export function LoadedPlan({ booked, drafted, label }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const force = dictionary.shown('force', bench.profile);
  const plan = planOf(valueAt(bench, 'wheelbase') ?? 2.5, valuesOf(bench, 'track') ?? [1.5, 1.5]);
  const total = booked.loads.reduce((sum, one) => sum + one, 0) || 1;
  const radius = (load: number) => EVEN * Math.sqrt((4 * load) / total);
  const half = plan.width / 2 + 1150;
  const top = -plan.nose - 40;
  const height = plan.nose + plan.wheelbase + plan.tail + 80;
  return (
    <svg
      className="car-plan loaded-plan"
      viewBox={`${-half} ${top} ${half * 2} ${height}`}
      role="img"
      aria-label={label}
    >
      <path className="body" d={bodyPath(plan)} />
      {wheels(plan).map(([x, y], i) => {
        const place = CORNERS[i] ?? 'LF';
        const load = booked.loads[i] ?? 0;
        const after = drafted?.loads[i];
        const side = place.startsWith('L') ? -1 : 1;
        const at = x + side * (Math.max(radius(load), radius(after ?? 0), 180) + 50);
        return (
          <g key={place}>
            <circle className="load-disc" cx={x} cy={y} r={radius(load)} />
            <rect
              className={`wheel${booked.lifted[i] ? ' is-lifted' : ''}`}
              x={x - WHEEL.width / 2}
              y={y - WHEEL.length / 2}
              width={WHEEL.width}
              height={WHEEL.length}
              rx="46"
            />
            {after !== undefined && (
              <circle className="load-disc is-drafted" cx={x} cy={y} r={radius(after)} />
            )}
            <text className="load-figure" x={at} y={y - 40} textAnchor={side < 0 ? 'end' : 'start'}>
              {showValue(load, force)} {force.symbol}
            </text>
            {after !== undefined && (
              <text
                className="load-figure drafted"
                x={at}
                y={y + 130}
                textAnchor={side < 0 ? 'end' : 'start'}
              >
                {showValue(after, force)}
              </text>
            )}
            <text className="load-note" x={at} y={y + 280} textAnchor={side < 0 ? 'end' : 'start'}>
              {noteOf(booked, i)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** What a wheel does beside carrying: off the ground, at a stop, on its rubber. */
function noteOf(one: Case, at: number): string {
  if (one.lifted[at]) return 'off the ground';
  if (one.on_stop[at]) return 'at its stop';
  return one.on_rubber[at] ? 'on the rubber' : '';
}
