/**
 * What is written elsewhere appears here at once: over a stream, or asked for each second where there is none.
 * The stream tells how far one's own long work is, too.
 */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { ask, client, Problem } from '../lib/client';
import { garageQuery, meQuery, stepKey } from '../lib/queries';
import { refreshCar } from '../lib/worked';
import type { Schemas } from '../lib/client';

const EVERY = 1000;
/** How long to ask before a stream is tried again [ms]. */
const AGAIN = 15_000;

type Changes = Schemas['ChangesView'];

export function useLive(): void {
  const queries = useQueryClient();
  const after = useRef(0);
  const inSight = useInSight();
  const take = useCallback(
    (changes: Changes) => {
      if (after.current > changes.at) return; // told before, by the other way
      after.current = changes.at;
      if (changes.more) void refreshCar(queries);
      for (const car of changes.cars) void refreshCar(queries, car);
      if (changes.more || changes.cars.length)
        void queries.invalidateQueries({ queryKey: garageQuery.queryKey });
    },
    [queries],
  );
  const streams = useStream(inSight, after, take);
  const { data, error } = useQuery({
    queryKey: ['changes'],
    queryFn: () => ask(client.GET('/api/changes', { params: { query: { after: after.current } } })),
    enabled: inSight && !streams,
    refetchInterval: EVERY,
    retry: false, // the next second asks again
    gcTime: 0,
  });
  useEffect(() => {
    if (data) take(data);
  }, [data, take]);
  // a sign-in that was ended elsewhere shows nothing more of the team
  const over = error instanceof Problem && error.status === 401;
  useEffect(() => {
    if (over) void queries.invalidateQueries({ queryKey: meQuery.queryKey });
  }, [over, queries]);
}

/** Whether a stream tells. One is open only while the window is in sight: a browser has few connections. */
function useStream(
  inSight: boolean,
  after: React.RefObject<number>,
  take: (changes: Changes) => void,
): boolean {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!inSight) return;
    const stream = new EventSource(`/api/live?after=${after.current}`);
    let again = 0;
    stream.onopen = () => setOpen(true);
    stream.onmessage = (event: MessageEvent<string>) => take(JSON.parse(event.data) as Changes);
    stream.addEventListener('step', (event: MessageEvent<string>) =>
      queries.setQueryData(stepKey, JSON.parse(event.data)),
    );
    stream.onerror = () => {
      setOpen(false);
      // one that was refused stays closed; one that ended is opened again by the browser
      if (stream.readyState === EventSource.CLOSED)
        again = window.setTimeout(() => setTries((n) => n + 1), AGAIN);
    };
    return () => {
      window.clearTimeout(again);
      stream.close();
      setOpen(false);
    };
  }, [inSight, tries, after, take, queries]);
  return open;
}

function useInSight(): boolean {
  return useSyncExternalStore(
    (changed) => {
      document.addEventListener('visibilitychange', changed);
      return () => document.removeEventListener('visibilitychange', changed);
    },
    () => document.visibilityState === 'visible',
  );
}
