import { describe, expect, it } from 'vitest';
import type { Dictionary } from '../lib/vocabulary';
import type { BenchData } from './bench';
import { wayOf } from './ways';

const numbers: Record<string, object> = {
  perch_turns: { quantity: 'turns' },
  rebound_clicks: { quantity: 'clicks' },
  track: { quantity: 'dimension', is_fact: true },
  spring: { quantity: 'part', is_part: true },
};
const measure: Record<string, object> = {
  turns: { symbol: 'turns', factor: 1, offset: 0, precision: 0.25 },
  dimension: { symbol: 'mm', factor: 1000, offset: 0, precision: 1 },
};
const dictionary = {
  entry: (name: string) => numbers[name],
  shown: (quantity: string) =>
    measure[quantity] ?? { symbol: '', factor: 1, offset: 0, precision: 1 },
} as unknown as Dictionary;
const stepped = { blocked: '', options: [] };
const bench = {
  profile: 'n_mm',
  choices: {
    perch_turns: {
      LF: { ...stepped, unit: 'turns', low: -2, high: 2, step: 0.25, start: 0 },
      RF: { ...stepped, unit: 'turns', low: 0.5, high: 2, step: 0.25, start: 0.5 },
    },
    rebound_clicks: {
      LF: {
        unit: 'from open',
        blocked: 'the knob no longer turns',
        low: 0,
        high: 12,
        step: 1,
        start: 0,
        options: [],
      },
    },
    spring: {
      LF: {
        unit: 'N/mm',
        blocked: '',
        low: null,
        high: null,
        step: null,
        start: null,
        options: [
          { value: 'none', shown: 'none fitted', words: 'none fitted' },
          { value: '60/200', shown: '60', words: '60 N/mm, 60/200' },
          { value: '80/180', shown: '80', words: '80 N/mm, 80/180' },
        ],
      },
    },
  },
} as unknown as BenchData;
const way = (name: string, place: string) => wayOf(dictionary, bench, name as never, place);

describe('a setting in steps', () => {
  it('moves by its step to the end of its range and no further', () => {
    expect(way('perch_turns', 'LF').next(1.75, 1)).toBe(2);
    expect(way('perch_turns', 'LF').next(2, 1)).toBeUndefined();
    expect(way('perch_turns', 'LF').next(-2, -1)).toBeUndefined();
  });
  it('adds tenths without a tail', () => {
    const tenths = {
      ...bench,
      choices: { perch_turns: { LF: { ...stepped, low: 0, high: 1, step: 0.1, start: 0 } } },
    } as unknown as BenchData;
    expect(wayOf(dictionary, tenths, 'perch_turns', 'LF').next(0.2, 1)).toBe(0.3);
  });
  it('starts where the server says that nobody has set it', () => {
    expect(way('perch_turns', 'LF').next(null, 1)).toBe(0);
    expect(way('perch_turns', 'RF').next(null, -1)).toBe(0.5);
    expect(way('perch_turns', 'LF').show(null)).toBe('not set');
    expect(way('perch_turns', 'LF').show(-0.25)).toBe('−0.25');
  });
  it('has its unit, and why it cannot move, from the server', () => {
    expect(way('rebound_clicks', 'LF').unit).toBe('from open');
    expect(way('rebound_clicks', 'LF').blocked).toContain('no longer turns');
    expect(way('perch_turns', 'LF').blocked).toBe('');
  });
  it('of another car’s place is shown and not moved', () => {
    expect(way('perch_turns', 'RR').show(1)).toBe('1.00');
    expect(way('perch_turns', 'RR').next(1, 1)).toBeUndefined();
  });
});

describe('a part of the inventory', () => {
  it('goes to its neighbour and ends with the list', () => {
    expect(way('spring', 'LF').next('60/200', 1)).toBe('80/180');
    expect(way('spring', 'LF').next('80/180', 1)).toBeUndefined();
    expect(way('spring', 'LF').next('60/200', -1)).toBeUndefined();
  });
  it('starts at either end where nothing is fitted', () => {
    expect(way('spring', 'LF').next(null, 1)).toBe('60/200');
    expect(way('spring', 'LF').next(null, -1)).toBe('80/180');
  });
  it('is shown by the figure that ranks it, and can be none', () => {
    expect(way('spring', 'LF').show('80/180')).toBe('80');
    expect(way('spring', 'LF').show('none')).toBe('none fitted');
    expect(way('spring', 'LF').show('gone')).toBe('gone');
    expect(way('spring', 'LF').show(null)).toBe('not set');
    expect(way('spring', 'LF').options).toHaveLength(3);
  });
});

describe('a fact', () => {
  it('is typed, never stepped', () => {
    expect(way('track', 'front').next(1.5, 1)).toBeUndefined();
    expect(way('track', 'front').show(1.5)).toBe('1500');
    expect(way('track', 'front').show(null)).toBe('not given');
  });
});
