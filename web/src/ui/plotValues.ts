/** What a plot is given, and reading its curves: between their points, and as rows of a table. */
import type { Shown } from '../lib/format';

export interface Line {
  /** Empty where the heading over the plot says it already. */
  label: string;
  drafted: boolean;
  /** One of a family: drawn behind, named at its end, and left out of the readout. */
  faint?: boolean;
  /** Which of the curves it is, for its dash. */
  order: number;
  /** In SI, as everything that a plot is given. */
  points: [number, number][];
}

export interface AxisOf {
  name: string;
  shown: Shown;
}

export interface Mark {
  label: string;
  at: number;
  drafted?: boolean;
}

/** What a curve has at a place, straight between its points; null outside them. */
export function valueAt(points: readonly (readonly [number, number])[], at: number): number | null {
  const after = points.findIndex(([x]) => x >= at);
  const [x1, y1] = points[after] ?? [NaN, NaN];
  if (after < 0) return null;
  if (x1 === at || after === 0) return x1 === at ? y1 : null;
  const [x0, y0] = points[after - 1] ?? [NaN, NaN];
  return y0 + ((y1 - y0) * (at - x0)) / (x1 - x0);
}

/** Every place that some curve has a point at, once, rising. */
export function places(lines: readonly { points: readonly (readonly [number, number])[] }[]) {
  return [...new Set(lines.flatMap((line) => line.points.map(([x]) => x)))].sort((a, b) => a - b);
}
