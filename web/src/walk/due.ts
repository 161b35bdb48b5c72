/** The readings that do not count as the car stands, in the order of its work. */
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';

export interface Due {
  kind: Schemas['ReadingKindEntry'];
  status: Schemas['StandingView']['status'];
  station: Schemas['StationEntry'];
}

export function useDue(): Due[] {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return dictionary.stationsFor(bench).flatMap((station) =>
    station.readings.flatMap((id) => {
      const kind = dictionary.reading(id);
      const standing = bench.standings.find((one) => one.kind === id);
      if (!kind || !standing || kind.when_needed || standing.status === 'fresh') return [];
      return [{ kind, status: standing.status, station }];
    }),
  );
}
