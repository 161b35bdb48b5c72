/** Who is signed in, and what that role may do. */
import { useQuery } from '@tanstack/react-query';
import { meQuery } from './queries';

export function useMay(ability: string): boolean {
  const me = useQuery(meQuery);
  return me.data?.abilities.includes(ability) ?? false;
}
