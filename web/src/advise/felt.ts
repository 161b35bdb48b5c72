/** How clearly a driver will feel a change, in words. */

/** Least size in felt steps, one being what a driver just tells apart, and the word for it. */
const FELT: [number, string][] = [
  [3, 'strongly'],
  [1, 'clearly'],
  [0.5, 'a little'],
];

export function howFelt(steps: number): string {
  return FELT.find(([least]) => steps >= least)?.[1] ?? 'hardly';
}
