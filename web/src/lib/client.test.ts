import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { client, SECOND_PRESS_MS } from './client';

describe('keys of requests', () => {
  let keys: (string | null)[];
  let status: number;

  beforeEach(() => {
    vi.useFakeTimers();
    keys = [];
    status = 200;
  });
  afterEach(() => vi.useRealTimers());

  const done = (car_id: number) =>
    client
      .POST('/api/cars/{car_id}/watched/{watched_id}/done', {
        params: { path: { car_id, watched_id: 1 } },
        baseUrl: 'http://127.0.0.1',
        fetch: (request) => {
          keys.push(request.headers.get('Idempotency-Key'));
          return Promise.resolve(new Response('{}', { status }));
        },
      })
      .catch(() => undefined);

  it('a second press sends the key of the first, one later another', async () => {
    await done(1);
    vi.advanceTimersByTime(SECOND_PRESS_MS - 10);
    await done(1);
    await done(2);
    vi.advanceTimersByTime(2 * SECOND_PRESS_MS);
    await done(1);
    expect(keys[0]).toMatch(/^[0-9a-f]{32}$/);
    expect(keys[1]).toBe(keys[0]);
    expect(new Set(keys).size).toBe(3);
  });

  it('what was refused is sent anew, what was put off as it was', async () => {
    for (status of [422, 503, 200]) await done(3);
    expect(keys[1]).not.toBe(keys[0]);
    expect(keys[2]).toBe(keys[1]);
  });
});
