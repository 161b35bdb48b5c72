import { describe, expect, it } from 'vitest';
import { rowsOf, typedAny, type Cells } from './readingDraft';

describe('a reading that is being taken', () => {
  it('sends its repeats in the order of the places, empty where nothing was typed', () => {
    const cells: Cells[] = [{ RF: '2', LF: '1' }, { LF: '3' }];
    expect(rowsOf(cells, ['LF', 'RF'])).toEqual([
      ['1', '2'],
      ['3', ''],
    ]);
    expect(rowsOf(undefined, ['front', 'rear'])).toEqual([['', '']]);
  });
  it('is one without a number until something is typed', () => {
    expect(typedAny({})).toBe(false);
    expect(typedAny({ pad_mass: [{ LF: ' ' }, {}] })).toBe(false);
    expect(typedAny({ pad_mass: [{}, { RR: '2' }] })).toBe(true);
  });
});
