import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { carOf, followCars, refreshCar, workedFrom, type WorkedFrom } from './worked';

const bench = { id: 1, revision: 4, stamp: 'a', slip: { version: 7 } };
const key = (path: string, car: number) => ['get', path, { params: { path: { car_id: car } } }];
const BENCH = key('/api/cars/{car_id}', 1);

let queries: QueryClient;
/** How often each question was asked. */
let times: Record<string, number>;

/** Have a question about a car in sight, as a panel would. */
function watch(name: string, state: WorkedFrom, car = 1) {
  times[name] = 0;
  const watched = new QueryObserver(queries, {
    queryKey: key(`/${name}`, car),
    queryFn: () => Promise.resolve((times[name] = (times[name] ?? 0) + 1)),
    ...workedFrom(state),
  });
  watched.subscribe(() => undefined);
  return watched;
}

beforeEach(() => {
  vi.useFakeTimers();
  queries = new QueryClient();
  times = {};
  followCars(queries);
  queries.setQueryData(BENCH, bench);
});
afterEach(() => {
  queries.clear();
  vi.useRealTimers();
});

test('the car that a question is about is read from its key', () => {
  expect(carOf({ queryKey: key('/api/cars/{car_id}/square', 3) })).toBe(3);
  expect(carOf({ queryKey: ['get', '/api/cars'] })).toBeUndefined();
});

test('a press asks anew for what the slip alters, and later for what takes long', async () => {
  watch('square', 'booked');
  watch('plot', 'drafted');
  const load = watch('under-load', 'rested');
  await vi.advanceTimersByTimeAsync(1);
  expect(times).toEqual({ square: 1, plot: 1, 'under-load': 1 });

  queries.setQueryData(BENCH, { ...bench, slip: { version: 8 } });
  await vi.advanceTimersByTimeAsync(1);
  expect(times).toEqual({ square: 1, plot: 2, 'under-load': 1 });
  expect(load.getCurrentResult().isStale).toBe(true);

  // a second press within the rest puts it off
  await vi.advanceTimersByTimeAsync(150);
  queries.setQueryData(BENCH, { ...bench, slip: { version: 9 } });
  await vi.advanceTimersByTimeAsync(150);
  expect(times['under-load']).toBe(1);
  await vi.advanceTimersByTimeAsync(60);
  expect(times).toEqual({ square: 1, plot: 3, 'under-load': 2 });
  expect(load.getCurrentResult().isStale).toBe(false);
});

describe.each(['drafted', 'rested'] as const)('what is %s', (state) => {
  /** A panel whose server answers when it is told to. */
  function slow() {
    const answers: ((value: string) => void)[] = [];
    const load = new QueryObserver(queries, {
      queryKey: key('/slow', 1),
      queryFn: () => new Promise<string>((told) => answers.push(told)),
      ...workedFrom(state),
    });
    load.subscribe(() => undefined);
    return { answers, data: () => load.getCurrentResult().data };
  }
  const later = () => vi.advanceTimersByTimeAsync(250);

  test('and was under way is asked for again once it came', async () => {
    const { answers, data } = slow();
    queries.setQueryData(BENCH, { ...bench, slip: { version: 8 } });
    answers[0]?.('of version 7');
    await later();
    expect(answers).toHaveLength(2);
    answers[1]?.('of version 8');
    await later();
    expect(data()).toBe('of version 8');
  });

  test('and is still under way is let go', async () => {
    const { answers, data } = slow();
    queries.setQueryData(BENCH, { ...bench, slip: { version: 8 } });
    await later();
    expect(answers).toHaveLength(2);
    answers[1]?.('of version 8');
    answers[0]?.('of version 7');
    await later();
    expect(data()).toBe('of version 8');
  });
});

test.each([{ revision: 5 }, { stamp: 'b' }])(
  'a write to the car asks for all: %o',
  async (news) => {
    watch('square', 'booked');
    watch('plot', 'drafted');
    watch('under-load', 'rested');
    watch('of-another-car', 'booked', 2);
    await vi.advanceTimersByTimeAsync(1);
    queries.setQueryData(BENCH, { ...bench, ...news });
    await vi.advanceTimersByTimeAsync(250);
    expect(times).toEqual({ square: 2, plot: 2, 'under-load': 2, 'of-another-car': 1 });
  },
);

test('the same bench again asks for nothing', async () => {
  watch('square', 'booked');
  watch('plot', 'drafted');
  await vi.advanceTimersByTimeAsync(1);
  queries.setQueryData(BENCH, { ...bench, session: null });
  await vi.advanceTimersByTimeAsync(5000);
  expect(times).toEqual({ square: 1, plot: 1 });
});

test('one car is asked for again, or every one', async () => {
  watch('square', 'booked');
  watch('other', 'booked', 2);
  await vi.advanceTimersByTimeAsync(1);
  await refreshCar(queries, 2);
  expect(times).toEqual({ square: 1, other: 2 });
  await refreshCar(queries);
  expect(times).toEqual({ square: 2, other: 3 });
});
