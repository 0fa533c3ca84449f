import { useEffect, useLayoutEffect, useRef } from 'react';
import { flushSync } from 'react-dom';
import { useBusy, useIsBusyNow } from './busy';
import { useKept } from './kept';

type Keys = Record<string, (() => void) | undefined>;
type Page = { keys: Keys; isBusy: () => boolean };
type Press = { name: string; shift: boolean };

const CONTROL =
  'a[href], button, summary, [role="button"], [role="menuitem"], [role="option"], [role="tab"], [contenteditable="true"]';
/** What lies over the page, and takes the keys. */
export const OVER = '[role="dialog"], [role="menu"]';
/** Inputs that take no letters. */
const TICKED = 'input:is([type="checkbox"], [type="radio"])';

/** Keys that are the frame's, wherever the focus is. */
const EVERYWHERE = ['/', '?', 'escape'];

/** Keys that look at nothing that a command could change. */
const AT_ONCE = [...EVERYWHERE, 'ctrl+k', 'n'];

const LETTER = /^[a-z]$/;

const pages: Page[] = [];
/** What was pressed and could not be done yet, in its sequence. */
const later: Press[] = [];
let onTheWay = 0;

/** Whether a press of a key is for the page: not while someone types, and not for what has the focus itself. */
function isForThePage(event: KeyboardEvent, name: string): boolean {
  const at = event.target as HTMLElement;
  const ticked = at.matches(TICKED);
  const typing = at.matches('input, textarea, select') && !ticked;
  if (event.defaultPrevented || event.altKey || document.querySelector(OVER)) return false;
  if (name.startsWith('ctrl+')) return true;
  return !typing && (EVERYWHERE.includes(name) || ticked || !at.closest(CONTROL));
}

const handlerOf = (name: string) => pages.find((page) => page.keys[name])?.keys[name];
const actOf = ({ name, shift }: Press) => (shift && handlerOf(`shift+${name}`)) || handlerOf(name);
const isBusy = () => pages.some((page) => page.isBusy());

function pressed(event: KeyboardEvent) {
  const name = (event.ctrlKey || event.metaKey ? 'ctrl+' : '') + event.key.toLowerCase();
  if (!isForThePage(event, name)) return;
  const press = { name, shift: event.shiftKey };
  const act = actOf(press);
  if (!act && !(onTheWay > 0 && LETTER.test(name) && !event.repeat)) return;
  event.preventDefault();
  if (act && later.length === 0 && (AT_ONCE.includes(name) || !isBusy())) act();
  else later.push(press);
}

/** Does the first of what was pressed before; one at a time, since each may change what the next is about. */
function doNext() {
  const [press] = later;
  if (!press || isBusy()) return;
  if (document.querySelector(OVER)) {
    // it was not meant for what has opened since
    later.length = 0;
    return;
  }
  const act = actOf(press);
  if (!act && onTheWay > 0) return;
  later.shift();
  if (act) flushSync(act);
  setTimeout(doNext);
}

/**
 * Single keys of a page. They are for its lists: silent while someone types, while a dialog or menu is open, and while a link or
 * button has the focus. What is pressed while a command runs is done when its outcome is shown, and a letter for a page that is
 * on its way when it is there.
 */
export function useKeys(keys: Keys) {
  const isBusyNow = useIsBusyNow();
  const page = useRef<Page>({ keys, isBusy: isBusyNow });
  // what waits is looked at again when nothing is busy any more
  useBusy();
  useLayoutEffect(() => {
    page.current.keys = keys;
    page.current.isBusy = isBusyNow;
    if (later.length > 0) setTimeout(doNext);
  });
  useEffect(() => {
    const mine = page.current;
    if (pages.push(mine) === 1) window.addEventListener('keydown', pressed);
    return () => {
      pages.splice(pages.indexOf(mine), 1);
      if (pages.length === 0) window.removeEventListener('keydown', pressed);
    };
  }, []);
}

/** While something is on its way, the letters that nothing shown has a use for wait for it. */
export function useOnTheWay(waits: boolean) {
  useEffect(() => {
    if (!waits) return;
    onTheWay++;
    return () => {
      onTheWay--;
      if (later.length > 0) setTimeout(doNext);
    };
  }, [waits]);
}

/** The place in a list where the keys stand: kept while one looks at a row and comes back, and always in sight. */
export function usePlace(rows: number) {
  const [kept, setAt] = useKept('place', 0);
  const last = Math.max(0, rows - 1);
  // some rows may have gone, and others may still be on their way
  const at = Math.min(kept, last);
  const first = useRef(true);
  useEffect(() => {
    if (!first.current) document.querySelector('.page-scroll .at')?.scrollIntoView({ block: 'nearest' });
    first.current = false;
  }, [at]);
  return [at, setAt, { j: () => setAt(Math.min(at + 1, last)), k: () => setAt(Math.max(at - 1, 0)) }] as const;
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

/** Single keys of what lies over the page, while it does. */
export function useKeysOver(keys: Keys) {
  const last = useRef(keys);
  useLayoutEffect(() => {
    last.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || at.matches('input, textarea, select'))
        return;
      last.current[event.key.toLowerCase()]?.();
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, []);
}
