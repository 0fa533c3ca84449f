import { useEffect, useRef } from 'react';
import { useBusy, useIsBusyNow } from './busy';
import { useKept } from './kept';

const CONTROL =
  'a[href], button, summary, [role="button"], [role="menuitem"], [role="option"], [role="tab"], [contenteditable="true"]';
const OVER = '[role="dialog"], [role="menu"]';

/** Keys that are the frame's, wherever the focus is. */
const EVERYWHERE = ['/', '?', 'escape'];

/** Keys that look at nothing that a command could change. */
const AT_ONCE = [...EVERYWHERE, 'ctrl+k', 'n'];

/** Whether a press of a key is for the page: not while someone types, and not for what has the focus itself. */
function isForThePage(event: KeyboardEvent, name: string): boolean {
  const at = event.target as HTMLElement;
  const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(at.tagName) && (at as HTMLInputElement).type !== 'checkbox';
  if (event.defaultPrevented || event.altKey || document.querySelector(OVER)) return false;
  if (name.startsWith('ctrl+')) return true;
  return !typing && (EVERYWHERE.includes(name) || !at.closest(CONTROL));
}

/**
 * Single keys of a page. They are for its lists: silent while someone types, while a dialog or menu is open, and while a link or
 * button has the focus. What is pressed while a command runs is done when its outcome is shown.
 */
export function useKeys(keys: Record<string, (() => void) | undefined>) {
  const latest = useRef(keys);
  const busy = useBusy();
  const isBusyNow = useIsBusyNow();
  const later = useRef<string[]>([]);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const next = busy ? undefined : later.current.shift();
    if (next) latest.current[next]?.();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const name = (event.ctrlKey || event.metaKey ? 'ctrl+' : '') + event.key.toLowerCase();
      if (!isForThePage(event, name)) return;
      const shifted = `shift+${name}`;
      const found = event.shiftKey && latest.current[shifted] ? shifted : name;
      if (!latest.current[found]) return;
      event.preventDefault();
      if (isBusyNow() && !AT_ONCE.includes(found)) later.current.push(found);
      else latest.current[found]();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [isBusyNow]);
}

/** The place in a list where the keys stand: kept while one looks at a row and comes back, and always in sight. */
export function usePlace(rows: number) {
  const [at, setAt] = useKept('place', 0);
  const first = useRef(true);
  useEffect(() => {
    if (!first.current) document.querySelector('.page-scroll .at')?.scrollIntoView({ block: 'nearest' });
    first.current = false;
  }, [at]);
  return [at, setAt, { j: () => setAt(Math.min(at + 1, rows - 1)), k: () => setAt(Math.max(at - 1, 0)) }] as const;
}

/** The row of a list that the keys stand on: J and K move it, Enter opens it. */
export function useCursor<Row>(rows: Row[], open: (row: Row) => void, more: Record<string, (row: Row) => void> = {}) {
  const [at, setAt, moves] = usePlace(rows.length);
  const on = (act: (row: Row) => void) => () => rows[at] && act(rows[at]);
  useKeys({
    ...moves,
    enter: on(open),
    ...Object.fromEntries(Object.entries(more).map(([key, act]) => [key, on(act)])),
  });
  return [at, setAt] as const;
}
