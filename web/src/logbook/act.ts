/** Doing something to the logbook, then showing it as it stands. */
import { useMutation } from '@tanstack/react-query';
import { useBench } from '../bench/bench';

export function useLogAct<T>(act: (input: T) => Promise<unknown>, done: () => void) {
  const { refresh } = useBench();
  return useMutation({
    mutationFn: act,
    onSuccess: async () => {
      await refresh();
      done();
    },
  });
}
