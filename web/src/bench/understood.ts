/** Cautions that were acknowledged in this sign-in; the server keeps them. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Schemas } from '../lib/client';
import { meQuery } from '../lib/queries';

/** A station's caution is acknowledged once in a sign-in; the server takes no reading before. */
export function useUnderstood(station: Schemas['StationEntry'] | undefined) {
  const queries = useQueryClient();
  const me = useQuery(meQuery);
  const say = api.useMutation('post', '/api/session/understood', {
    onSuccess: (now) => queries.setQueryData(meQuery.queryKey, now),
  });
  return {
    understood: !station?.caution || (me.data?.understood.includes(station.id) ?? false),
    understand: () => say.mutate({ body: { stations: station ? [station.id] : [] } }),
    problem: say.error,
  };
}
