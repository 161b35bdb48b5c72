/**
 * Figures worked from a car are asked for again when the car moves on, and never because time went by.
 *
 * A query says what its answer is worked from. `followCars` sees each bench that arrives: where the car as booked
 * or its slip is another than before, every answer worked from it is out of date (`isStale`) and asked for anew,
 * while the old one stays in sight.
 */
import type { Query, QueryClient } from '@tanstack/react-query';
import type { Schemas } from './client';

/** The car as booked, with what is on the slip, or the same once the hand on the slip rests. */
export type WorkedFrom = 'booked' | 'drafted' | 'rested';

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: { workedFrom?: WorkedFrom };
  }
}

/** The options of a query whose answer is worked from a car. */
export const workedFrom = (state: WorkedFrom) => ({
  staleTime: Infinity,
  meta: { workedFrom: state },
});

/** How long the hand rests before the server is asked for what takes it long [ms]. */
const REST_MS = 200;
const BENCH = '/api/cars/{car_id}';

type Bench = Pick<Schemas['BenchView'], 'id' | 'revision' | 'stamp'> & {
  slip: Pick<Schemas['SlipView'], 'version'>;
};

/** The car that a query asks about, from its key: method, path and parameters. */
export function carOf({ queryKey }: Pick<Query, 'queryKey'>): number | undefined {
  const asked = queryKey[2] as { params?: { path?: { car_id?: number } } } | undefined;
  return asked?.params?.path?.car_id;
}

/** Ask again for all that is known of a car, or of every car. */
export function refreshCar(queries: QueryClient, car?: number): Promise<void> {
  return queries.invalidateQueries({
    predicate: (query) => (car === undefined ? carOf(query) !== undefined : carOf(query) === car),
  });
}

const worksFrom = (query: Query, car: number, states: WorkedFrom[]) =>
  carOf(query) === car && states.some((state) => state === query.meta?.workedFrom);

/** Keep every answer that is worked from a car in step with the car. */
export function followCars(queries: QueryClient): void {
  const seen = new Map<number, Bench>();
  const resting = new Map<number, ReturnType<typeof setTimeout>>();

  /** Ask again for what is worked from these; an answer on its way is of the car as it was. */
  const askAgain = (car: number, states: WorkedFrom[]) => {
    const isWorked = (query: Query) => worksFrom(query, car, states);
    // a first answer on its way would be waited for and taken: it is let go
    const isFirst = ({ state }: Query) => state.data === undefined && state.fetchStatus !== 'idle';
    void queries.resetQueries({ predicate: (query) => isWorked(query) && isFirst(query) });
    void queries.invalidateQueries({ predicate: isWorked });
  };
  const outdate = (car: number, atOnce: WorkedFrom[]) => {
    askAgain(car, atOnce);
    void queries.invalidateQueries({
      predicate: (query) => worksFrom(query, car, ['rested']),
      refetchType: 'none',
    });
    clearTimeout(resting.get(car));
    resting.set(
      car,
      setTimeout(() => askAgain(car, ['rested']), REST_MS),
    );
  };

  queries.getQueryCache().subscribe((event) => {
    if (event.type !== 'updated' || event.action.type !== 'success') return;
    if ((event.query.queryKey as unknown[])[1] !== BENCH) return;
    const bench = event.query.state.data as Bench;
    const before = seen.get(bench.id);
    seen.set(bench.id, bench);
    if (!before) return;
    if (bench.revision !== before.revision || bench.stamp !== before.stamp)
      outdate(bench.id, ['booked', 'drafted']);
    else if (bench.slip.version !== before.slip.version) outdate(bench.id, ['drafted']);
  });
}
