import { useEffect, useRef, useState } from 'react';

/** Single keys of a page; silent while someone types or a dialog is open. */
export function useKeys(keys: Record<string, (() => void) | undefined>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(at.tagName) && (at as HTMLInputElement).type !== 'checkbox';
      if (document.querySelector('[role="dialog"]')) return;
      const name = (event.ctrlKey || event.metaKey ? 'ctrl+' : '') + event.key.toLowerCase();
      if ((typing && !name.startsWith('ctrl+')) || event.altKey) return;
      const act = (event.shiftKey && latest.current[`shift+${name}`]) || latest.current[name];
      if (act) {
        event.preventDefault();
        act();
      }
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}

/** The row of a list that the keys stand on: J and K move it, Enter opens it. */
export function useCursor<Row>(rows: Row[], open: (row: Row) => void, more: Record<string, (row: Row) => void> = {}) {
  const [at, setAt] = useState(0);
  const on = (act: (row: Row) => void) => () => rows[at] && act(rows[at]);
  useKeys({
    j: () => setAt(Math.min(at + 1, rows.length - 1)),
    k: () => setAt(Math.max(at - 1, 0)),
    enter: on(open),
    ...Object.fromEntries(Object.entries(more).map(([key, act]) => [key, on(act)])),
  });
  return [at, setAt] as const;
}
