/** The plan with the ballast that is bolted down, and one piece more that is dragged to its place. */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { useBench, valueAt, valuesOf } from '../bench/bench';
import { useDictionary } from '../lib/vocabulary';
import { showValue } from '../lib/format';
import { PlanBody } from './CarOutline';
import { planOf } from './outline';

const STEP = 0.01;
const LONG_STEP = 0.1;
const KEYS: Record<string, [behind: number, left: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, 1],
  ArrowRight: [0, -1],
};

interface Props {
  /** The piece tried: behind the front axle, left of the centre, and its mass. */
  place: { behind_front: number; to_left: number; mass: number } | null;
  moved: (behindFront: number, toLeft: number) => void;
}

export function BallastPlan({ place, moved }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const sheet = useRef<SVGSVGElement>(null);
  const length = dictionary.shown('dimension', bench.profile);
  const mass = dictionary.shown('mass', bench.profile);
  const plan = planOf(valueAt(bench, 'wheelbase') ?? 2.5, valuesOf(bench, 'track') ?? [1.5, 1.5]);
  const half = plan.width / 2 + 60;
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const matrix = sheet.current?.getScreenCTM();
    if (!matrix) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    moved(Math.round(at.y / 10) / 100, Math.round(-at.x / 10) / 100);
  };
  const key = (event: KeyboardEvent) => {
    const way = KEYS[event.key];
    if (!way || !place) return;
    event.preventDefault();
    const by = event.shiftKey ? LONG_STEP : STEP;
    moved(
      Math.round((place.behind_front + way[0] * by) * 1000) / 1000,
      Math.round((place.to_left + way[1] * by) * 1000) / 1000,
    );
  };
  const words = place
    ? `${showValue(place.behind_front, length)} ${length.symbol} behind the front axle, ${showValue(place.to_left, length)} ${length.symbol} to the left`
    : 'no place';
  return (
    <svg
      ref={sheet}
      className="car-plan ballast-plan"
      viewBox={`${-half} ${-plan.nose - 40} ${half * 2} ${plan.nose + plan.wheelbase + plan.tail + 80}`}
      role="group"
      aria-label="The car in plan with its ballast"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons > 0) drag(event);
      }}
    >
      <PlanBody plan={plan} />
      {fittedPieces(bench).map((one) => (
        <g key={one.code} className="piece" transform={`translate(${-one.left} ${one.behind})`}>
          <rect x="-70" y="-50" width="140" height="100" />
          <text y="150" textAnchor="middle">
            {one.code}
          </text>
        </g>
      ))}
      {place && (
        <g
          className="piece is-drafted"
          transform={`translate(${-place.to_left * 1000} ${place.behind_front * 1000})`}
          role="slider"
          tabIndex={0}
          aria-label="Ballast tried: arrow keys move it, with Shift ten times as far"
          aria-valuenow={Math.round(place.behind_front * 1000)}
          aria-valuetext={words}
          onKeyDown={key}
        >
          <circle r="150" className="grip" />
          <rect x="-80" y="-60" width="160" height="120" />
          <text y="-90" textAnchor="middle">
            {showValue(place.mass, { ...mass, precision: 0.1 })} {mass.symbol}
          </text>
        </g>
      )}
    </svg>
  );
}

function fittedPieces(bench: ReturnType<typeof useBench>['bench']) {
  const stock = bench.parts.ballast ?? [];
  return (bench.setup.ballast ?? []).flatMap((code) => {
    const part = stock.find((one) => one.code === code);
    const { behind_front: behind, to_left: left } = part?.values ?? {};
    if (!part || typeof behind !== 'number') return [];
    return [{ code: part.code, behind: behind * 1000, left: Number(left ?? 0) * 1000 }];
  });
}
