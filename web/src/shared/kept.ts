import { useEffect, useLayoutEffect, useState } from 'react';
import { useLocation } from 'react-router';

/** What belongs to an entry of the browser's history, so that going back finds it as it was. */
const kept = new Map<string, unknown>();

/** A state that is there again when one comes back to the page. */
export function useKept<T>(name: string, initial: T) {
  const { key } = useLocation();
  const id = `${key} ${name}`;
  const [value, set] = useState<T>(() => (kept.has(id) ? (kept.get(id) as T) : initial));
  useEffect(() => {
    kept.set(id, value);
  }, [id, value]);
  return [value, set] as const;
}

const SCROLLED = 'page-scroll';
const LONGEST_WAIT = 2_000;

/** The part of the page that scrolls, at least that far; a head of tabs that stays where it is looks the same. */
export const scroller = (atLeast = 1) =>
  [...document.querySelectorAll(`.${SCROLLED}`)].find((part) => part.scrollHeight - part.clientHeight >= atLeast);

/** Keeps how far each page was scrolled; what is come back to stands there again as soon as it is long enough. */
export function useScrollPlace() {
  const { key } = useLocation();
  useLayoutEffect(() => {
    const id = `${key} scrolled`;
    const wanted = (kept.get(id) as number | undefined) ?? 0;
    const until = performance.now() + LONGEST_WAIT;
    let restoring = wanted > 0;
    let frame = 0;
    const restore = () => {
      const page = scroller(wanted);
      if (page) {
        page.scrollTop = wanted;
        restoring = false;
      } else if (performance.now() < until) frame = requestAnimationFrame(restore);
      else restoring = false;
    };
    if (restoring) restore();
    const scrolled = (event: Event) => {
      const at = event.target;
      if (!restoring && at instanceof HTMLElement && at.classList.contains(SCROLLED)) kept.set(id, at.scrollTop);
    };
    document.addEventListener('scroll', scrolled, true);
    return () => {
      cancelAnimationFrame(frame);
      document.removeEventListener('scroll', scrolled, true);
    };
  }, [key]);
}
