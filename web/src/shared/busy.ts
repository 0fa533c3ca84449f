import { useIsMutating, useQueryClient } from '@tanstack/react-query';
import { useCallback, useSyncExternalStore } from 'react';

let reading = 0;
const told = new Set<() => void>();
const change = (by: 1 | -1) => {
  reading += by;
  told.forEach((tell) => {
    tell();
  });
};

/** What a command changed is being read again: until then what is shown is not yet what it will be. */
export function whileReadAgain(read: Promise<unknown>) {
  change(1);
  void read.finally(() => {
    change(-1);
  });
}

const subscribe = (tell: () => void) => {
  told.add(tell);
  return () => {
    told.delete(tell);
  };
};

/** A command runs, or its outcome is not shown yet. */
export function useBusy(): boolean {
  const running = useIsMutating() > 0;
  return useSyncExternalStore(subscribe, () => reading > 0) || running;
}

/** The same, asked at the moment. */
export function useIsBusyNow(): () => boolean {
  const queries = useQueryClient();
  return useCallback(() => reading > 0 || queries.isMutating() > 0, [queries]);
}
