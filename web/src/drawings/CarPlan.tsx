/** The car in plan, to scale from its own data: wheels, centre of gravity, diagonals, bars. */
import { useBench, valueAt, valuesOf } from '../bench/bench';
import { useSetting } from '../bench/slip';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { PlanBody, wheels } from './CarOutline';
import { planOf } from './outline';

export function CarPlan() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const wheelbase = valueAt(bench, 'wheelbase');
  const track = valuesOf(bench, 'track');
  const plan = planOf(wheelbase ?? 2.5, track ?? [1.5, 1.5]);
  const behind = valueAt(bench, 'cg_behind_front');
  const offset = valueAt(bench, 'cg_offset');
  const cross = valueAt(bench, 'cross_share');
  const share = dictionary.shown('share', bench.profile);
  const mm = dictionary.shown('dimension', bench.profile);
  const half = plan.width / 2 + 60;
  const top = -plan.nose - 40;
  const height = plan.nose + plan.wheelbase + plan.tail + 80;
  const cg =
    behind !== undefined && offset !== undefined ? { x: -offset * 1000, y: behind * 1000 } : null;
  const [lf, rf, lr, rr] = wheels(plan);
  return (
    <svg
      className="car-plan"
      viewBox={`${-half} ${top} ${half * 2} ${height}`}
      role="img"
      aria-label={`The car in plan${wheelbase ? `, wheelbase ${showValue(wheelbase, mm)} ${mm.symbol}` : ''}${cross !== undefined ? `, cross ${showValue(cross, share)} %` : ''}`}
    >
      <PlanBody plan={plan} />
      <path
        className="axle"
        d={`M${-plan.front / 2} 0H${plan.front / 2}M${-plan.rear / 2} ${plan.wheelbase}H${plan.rear / 2}`}
      />
      {cross !== undefined && lf && rf && lr && rr && (
        <>
          <path className="off-diagonal" d={`M${lf[0]} ${lf[1]}L${rr[0]} ${rr[1]}`} />
          <path className="diagonal" d={`M${rf[0]} ${rf[1]}L${lr[0]} ${lr[1]}`} />
          <text className="diagonal-label" x="0" y={plan.wheelbase * 0.24} textAnchor="middle">
            cross {showValue(cross, share)} %
          </text>
        </>
      )}
      {cg && <CentreOfGravity x={cg.x} y={cg.y} />}
      <Bar place="front" y={-250} half={plan.front / 2 - 330} />
      <Bar place="rear" y={plan.wheelbase + 250} half={plan.rear / 2 - 330} />
    </svg>
  );
}

function CentreOfGravity({ x, y }: { x: number; y: number }) {
  return (
    <g className="cg" transform={`translate(${x} ${y})`}>
      <title>centre of gravity</title>
      <circle r="62" />
      <path d="M0 0V-62A62 62 0 0 1 62 0ZM0 0V62A62 62 0 0 1-62 0Z" />
    </g>
  );
}

function Bar({ place, y, half }: { place: 'front' | 'rear'; y: number; half: number }) {
  const { bench } = useBench();
  const now = useSetting('bar_hole', place);
  if (!bench.setup.bar_hole || now.value === null) return null;
  const arm = place === 'front' ? 90 : -90;
  return (
    <g className={`bar${now.drafted ? ' is-drafted' : ''}`}>
      <path d={`M${-half} ${y + arm}V${y}H${half}V${y + arm}`} />
      <text x="0" y={place === 'front' ? y - 46 : y + 118} textAnchor="middle">
        bar, hole {now.drafted ? `${now.booked ?? 'not set'} → ` : ''}
        {now.value} of {bench.adjusters.bar_hole?.highest}
      </text>
    </g>
  );
}
