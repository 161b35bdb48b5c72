import { describe, expect, it } from 'vitest';
import { places, valueAt } from './plotValues';

const BENT: [number, number][] = [
  [0, 10],
  [2, 20],
  [4, 0],
];

describe('reading a curve', () => {
  it('goes straight between its points', () => {
    expect(valueAt(BENT, 1)).toBe(15);
    expect(valueAt(BENT, 3)).toBe(10);
    expect(valueAt(BENT, 4)).toBe(0);
    expect(valueAt(BENT, 0)).toBe(10);
  });

  it('has nothing to say outside them', () => {
    expect(valueAt(BENT, -0.1)).toBeNull();
    expect(valueAt(BENT, 4.1)).toBeNull();
    expect(valueAt([], 1)).toBeNull();
  });

  it('lists each place once', () => {
    const other: [number, number][] = [
      [2, 1],
      [1, 1],
    ];
    expect(places([{ points: BENT }, { points: other }])).toEqual([0, 1, 2, 4]);
  });
});
