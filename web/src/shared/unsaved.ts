import { useCallback, useEffect, useId } from 'react';

type Typed = { within: string };

/** What was typed on the page and is not saved; within a part of the application it stays when one goes to another tab. */
const typed = new Map<string, Typed>();

/** Whether going there would lose something. */
export const wouldLose = (path: string) =>
  [...typed.values()].some((one) => one.within === '' || !path.startsWith(one.within));

export const anythingUnsaved = () => typed.size > 0;

export const forgetUnsaved = () => {
  typed.clear();
};

/**
 * Something was typed that would be lost: one is asked before one leaves.
 *
 * @param within where it is kept from tab to tab
 * @returns to be called when it is saved, before one is taken elsewhere
 */
export function useUnsaved(dirty: boolean, within = ''): () => void {
  const id = useId();
  useEffect(() => {
    if (!dirty) return;
    typed.set(id, { within });
    return () => {
      typed.delete(id);
    };
  }, [dirty, id, within]);
  return useCallback(() => {
    typed.delete(id);
  }, [id]);
}
