import { describe, expect, it } from 'vitest';
import type { Dictionary } from '../lib/vocabulary';
import type { BenchData } from './bench';
import { blockedBy, stockFor, wayOf } from './ways';

const part = (code: string, ranks: number | null, fits: string, blocked = {}, ranges = {}) => ({
  code,
  ranks,
  fits,
  blocked,
  ranges,
});
const numbers: Record<string, object> = {
  perch_turns: { quantity: 'turns', step: 0.25 },
  bar_hole: { quantity: 'count', step: 1 },
  rebound_clicks: { quantity: 'clicks', step: 1 },
  track: { quantity: 'dimension', is_fact: true },
  spring: { quantity: 'part', is_part: true },
};
const measure: Record<string, object> = {
  turns: { symbol: 'turns', factor: 1, offset: 0, precision: 0.25 },
  dimension: { symbol: 'mm', factor: 1000, offset: 0, precision: 1 },
  rate: { symbol: 'N/mm', factor: 0.001, offset: 0, precision: 1 },
};
const whole = { symbol: '', factor: 1, offset: 0, precision: 1 };
const dictionary = {
  entry: (name: string) => numbers[name],
  shown: (quantity: string) => measure[quantity] ?? whole,
  places: () => ['LF', 'RF', 'LR', 'RR'],
  part: () => ({
    can_be_none: true,
    fields: [{ kind: 'figure', needed: true, quantity: 'rate' }],
  }),
} as unknown as Dictionary;
const bench = {
  profile: 'n_mm',
  adjusters: {
    perch_turns: { lowest: -2, highest: 2, counted: '', at: { LF: [-1, 1] } },
    bar_hole: { lowest: 1, highest: 5, counted: '', at: {} },
    rebound_clicks: { lowest: 0, highest: 20, counted: 'from_open', at: {} },
  },
  setup: { damper: ['A', 'B', null, null] },
  not_here: {},
  parts: {
    spring: [
      part('60/200', 60e3, 'both'),
      part('70/180', 70e3, 'rear'),
      part('80/180', 80e3, 'front'),
    ],
    damper: [
      part('A', null, 'both', { rebound_clicks: 'the knob no longer turns' }),
      part('B', null, 'both', {}, { rebound_clicks: [0, 12] }),
    ],
  },
} as unknown as BenchData;
const way = (name: string, place: string) => wayOf(dictionary, bench, name as never, place);

describe('a setting in steps', () => {
  it('moves by its step to the end of its range and no further', () => {
    expect(way('perch_turns', 'RF').next(1.75, 1)).toBe(2);
    expect(way('perch_turns', 'RF').next(2, 1)).toBeUndefined();
  });
  it('goes no further than the part fitted there lets it', () => {
    expect(way('rebound_clicks', 'RF').next(11, 1)).toBe(12);
    expect(way('rebound_clicks', 'RF').next(12, 1)).toBeUndefined();
    expect(way('rebound_clicks', 'RR').next(12, 1)).toBe(13);
  });
  it('keeps to the range of its own corner', () => {
    expect(way('perch_turns', 'LF').next(1, 1)).toBeUndefined();
  });
  it('starts at zero where its range holds it, else at the lower end', () => {
    expect(way('perch_turns', 'RF').next(null, 1)).toBe(0);
    expect(way('bar_hole', 'front').next(null, -1)).toBe(1);
    expect(way('bar_hole', 'front').show(null)).toBe('not set');
  });
  it('counts clicks the way its adjuster does', () => {
    expect(way('rebound_clicks', 'LF').unit).toBe('from open');
  });
});

describe('a part of the inventory', () => {
  it('is chosen among those that fit the axle, softest first', () => {
    expect(stockFor(bench, 'spring', 'LF').map((one) => one.code)).toEqual(['60/200', '80/180']);
    expect(way('spring', 'LF').next('60/200', 1)).toBe('80/180');
    expect(way('spring', 'LF').next('80/180', 1)).toBeUndefined();
  });
  it('starts at either end where nothing is fitted', () => {
    expect(way('spring', 'LR').next(null, 1)).toBe('60/200');
    expect(way('spring', 'LR').next(null, -1)).toBe('70/180');
  });
  it('is shown by the figure that ranks it, and can be none', () => {
    expect(way('spring', 'LF').show('80/180')).toBe('80');
    expect(way('spring', 'LF').show('none')).toBe('none fitted');
    expect(way('spring', 'LF').show('gone')).toBe('gone');
    expect(way('spring', 'LF').options[0]).toEqual({ value: 'none', words: 'none fitted' });
  });
});

describe('a fact and a dead knob', () => {
  it('a fact is typed, never stepped', () => {
    expect(way('track', 'front').next(1.5, 1)).toBeUndefined();
    expect(way('track', 'front').show(1.5)).toBe('1500');
    expect(way('track', 'front').show(null)).toBe('not given');
  });
  it('says why a setting cannot move, only where the part is fitted', () => {
    expect(blockedBy(bench, dictionary, 'rebound_clicks', 'LF')).toContain('no longer turns');
    expect(blockedBy(bench, dictionary, 'rebound_clicks', 'RF')).toBe('');
    expect(blockedBy(bench, dictionary, 'bar_hole', 'LF')).toBe('');
  });
});
