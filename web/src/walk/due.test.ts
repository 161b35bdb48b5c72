import { describe, expect, it } from 'vitest';
import type { Schemas } from '../lib/client';
import { dueOf } from './due';

type Kind = Schemas['ReadingKindEntry'];

const kinds = ['heights', 'pads', 'bolts', 'droop'].map((id) => ({
  id,
  when_needed: id === 'droop',
}));
const readingOf = (id: string) => kinds.find((one) => one.id === id) as Kind | undefined;
const station = (id: string, ...readings: string[]) =>
  ({ id, readings }) as unknown as Schemas['StationEntry'];
const stations = [station('heights', 'heights', 'droop'), station('weights', 'pads', 'unknown')];

describe('what is due', () => {
  it('is what does not stand as fresh, in the order of the work', () => {
    const found = dueOf(
      [...stations, station('release', 'bolts')],
      [
        { kind: 'bolts', status: 'missing' },
        { kind: 'pads', status: 'void' },
        { kind: 'heights', status: 'fresh' },
      ],
      readingOf,
    );
    expect(found.map((one) => [one.station.id, one.kind.id, one.status])).toEqual([
      ['weights', 'pads', 'void'],
      ['release', 'bolts', 'missing'],
    ]);
  });
  it('is nothing that is read when needed only, or that nothing is known of', () => {
    expect(dueOf(stations, [{ kind: 'droop', status: 'missing' }], readingOf)).toEqual([]);
  });
});
