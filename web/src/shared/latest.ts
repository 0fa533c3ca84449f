import { useCallback, useEffect, useRef } from 'react';

/** A function that stays the same and does what the latest one does: whoever is given it is not drawn again for its sake. */
export function useLatest<Of>(act: (of: Of) => void): (of: Of) => void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  return useCallback((of: Of) => latest.current(of), []);
}
