/** A small plan of a car lying on its side, all cars of a garage to one scale. */
import { bodyPath, cockpitPath, planOf, WHEEL, type Plan } from './outline';

const LENGTH = 4700;
const WIDTH = 2050;

export function CarOutline({
  wheelbase,
  track,
}: {
  wheelbase: number | null;
  track: number[] | null;
}) {
  const plan = planOf(wheelbase ?? 2.5, track ?? [1.5, 1.5]);
  const known = wheelbase !== null && track !== null;
  const length = plan.nose + plan.wheelbase + plan.tail;
  return (
    <svg
      className={`outline${known ? '' : ' is-guess'}`}
      viewBox={`0 0 ${LENGTH} ${WIDTH}`}
      aria-hidden="true"
    >
      <g transform={`translate(${(LENGTH - length) / 2 + plan.nose} ${WIDTH / 2}) rotate(-90)`}>
        <PlanBody plan={plan} />
      </g>
    </svg>
  );
}

/** The four wheels with the body over them. */
export function PlanBody({ plan }: { plan: Plan }) {
  return (
    <>
      {wheels(plan).map(([x, y]) => (
        <rect
          key={`${x} ${y}`}
          className="wheel"
          x={x - WHEEL.width / 2}
          y={y - WHEEL.length / 2}
          width={WHEEL.width}
          height={WHEEL.length}
          rx="46"
        />
      ))}
      <path className="body" d={bodyPath(plan)} />
      <path className="fine" d={cockpitPath(plan)} />
    </>
  );
}

export function wheels(plan: ReturnType<typeof planOf>): [number, number][] {
  return [
    [-plan.front / 2, 0],
    [plan.front / 2, 0],
    [-plan.rear / 2, plan.wheelbase],
    [plan.rear / 2, plan.wheelbase],
  ];
}
