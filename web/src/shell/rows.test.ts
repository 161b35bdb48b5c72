import { describe, expect, it } from 'vitest';
import { alike, placesInOrder } from './rows';

describe('rows of a slip', () => {
  const line = (name: string, place: string, to: number) => ({ name, place, to });

  it('that say the same at several places are one', () => {
    const rows = [line('spring', 'LR', 80), line('toe', 'LR', 1), line('spring', 'RR', 80)];
    expect(alike(rows, ({ name, to }) => [name, to])).toEqual([[rows[0], rows[2]], [rows[1]]]);
  });
  it('name their places from the front left', () => {
    const at = ['RR', 'rear', 'LF', 'car', 'LR'].map((place) => ({ place }));
    expect(placesInOrder(at)).toEqual(['car', 'rear', 'LF', 'LR', 'RR']);
  });
});
