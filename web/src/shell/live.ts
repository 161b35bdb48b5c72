/** What others write appears here within about a second: asked for while the window is in sight. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { ask, client } from '../lib/client';
import { carKey, garageQuery } from '../lib/queries';

const EVERY = 1000;

export function useLive(): void {
  const queries = useQueryClient();
  const after = useRef(0);
  const { data } = useQuery({
    queryKey: ['changes'],
    queryFn: () => ask(client.GET('/api/changes', { params: { query: { after: after.current } } })),
    refetchInterval: EVERY,
    retry: false, // the next second asks again
    gcTime: 0,
  });
  useEffect(() => {
    if (!data) return;
    after.current = data.at;
    if (data.more) void queries.invalidateQueries({ queryKey: ['car'] });
    for (const car of data.cars) void queries.invalidateQueries({ queryKey: carKey(car) });
    if (data.more || data.cars.length)
      void queries.invalidateQueries({ queryKey: garageQuery.queryKey });
  }, [data, queries]);
}
