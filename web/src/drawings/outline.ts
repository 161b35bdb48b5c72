/** The car in plan from its own wheelbase and tracks, in millimetres, nose up, origin at the front axle. */
export interface Plan {
  wheelbase: number;
  front: number;
  rear: number;
  width: number;
  nose: number;
  tail: number;
}

export const WHEEL = { width: 235, length: 640 };

export function planOf(wheelbase: number, track: number[]): Plan {
  const front = (track[0] ?? 1.5) * 1000;
  const rear = (track[1] ?? 1.5) * 1000;
  return {
    wheelbase: wheelbase * 1000,
    front,
    rear,
    width: Math.max(front, rear) + WHEEL.width + 60,
    nose: 780,
    tail: 860,
  };
}

/** A plain body around the wheels: no maker's, just long enough and wide enough. */
export function bodyPath(plan: Plan): string {
  const f = plan.front / 2 - 105;
  const r = plan.rear / 2 - 100;
  const waist = Math.min(f, r) - 30;
  const { wheelbase: l, nose, tail } = plan;
  return [
    `M0 ${-nose}`,
    `C${f * 0.62} ${-nose} ${f * 0.94} ${-nose + 150} ${f} ${-380}`,
    `C${f + 22} ${-60} ${waist} 240 ${waist} ${l * 0.42}`,
    `C${waist} ${l * 0.66} ${r + 26} ${l - 420} ${r + 20} ${l}`,
    `C${r + 14} ${l + tail * 0.72} ${r * 0.86} ${l + tail} 0 ${l + tail}`,
    `C${-r * 0.86} ${l + tail} ${-r - 14} ${l + tail * 0.72} ${-r - 20} ${l}`,
    `C${-r - 26} ${l - 420} ${-waist} ${l * 0.66} ${-waist} ${l * 0.42}`,
    `C${-waist} 240 ${-f - 22} ${-60} ${-f} ${-380}`,
    `C${-f * 0.94} ${-nose + 150} ${-f * 0.62} ${-nose} 0 ${-nose}Z`,
  ].join('');
}

/** An open cockpit: the rim of it, and the screen ahead. */
export function cockpitPath(plan: Plan): string {
  const w = Math.min(plan.front, plan.rear) / 2 - 250;
  const from = plan.wheelbase * 0.36;
  const to = plan.wheelbase * 0.86;
  return `M${-w * 0.82} ${from}Q0 ${from - 150} ${w * 0.82} ${from}L${w} ${to - 140}Q${w} ${to} ${w - 150} ${to}H${-w + 150}Q${-w} ${to} ${-w} ${to - 140}Z`;
}
