/** The readings that do not count as the car stands, in the order of its work. */
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';

export interface Due {
  kind: Schemas['ReadingKindEntry'];
  status: Schemas['StandingView']['status'];
  station: Schemas['StationEntry'];
}

/** Of the stations in the order of the work: what is asked for always and does not stand as fresh. */
export function dueOf(
  stations: readonly Schemas['StationEntry'][],
  standings: readonly Pick<Schemas['StandingView'], 'kind' | 'status'>[],
  readingOf: (id: string) => Schemas['ReadingKindEntry'] | undefined,
): Due[] {
  return stations.flatMap((station) =>
    station.readings.flatMap((id) => {
      const kind = readingOf(id);
      const standing = standings.find((one) => one.kind === id);
      if (!kind || !standing || kind.when_needed || standing.status === 'fresh') return [];
      return [{ kind, status: standing.status, station }];
    }),
  );
}

export function useDue(): Due[] {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return dueOf(dictionary.stationsFor(bench), bench.standings, (id) => dictionary.reading(id));
}
