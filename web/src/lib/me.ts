/** Who is signed in, and what that role may do. */
import { useQuery } from '@tanstack/react-query';
import { meQuery } from './queries';

export function useMay(ability: string): boolean {
  const me = useQuery(meQuery);
  return me.data?.abilities.includes(ability) ?? false;
}

/** What each role may do, as it is said. */
export const ROLES: Record<string, string> = {
  engineer: 'changes the car and books',
  crew: 'takes readings, logs runs',
  driver: 'comments, gives verdicts',
  viewer: 'looks on',
};
