import { useEffect, type RefObject } from 'react';
import { useLocation } from 'react-router';
import { scroller } from '../shared/kept';
import { OVER } from '../shared/keys';

const BY_ARROW = 60;

/**
 * The page has the focus unless something in it was given it: after one has gone to another place, after a click on a button, and
 * after Escape. Its single keys act, and the arrow keys scroll it.
 */
export function useListFocus(body: RefObject<HTMLElement | null>) {
  const { pathname } = useLocation();
  useEffect(() => {
    const at = document.activeElement;
    // nobody is interrupted who types, in Find for example
    if (!body.current?.contains(at) && !(at instanceof HTMLInputElement)) body.current?.focus({ preventScroll: true });
  }, [pathname, body]);
  useEffect(() => {
    const back = () => body.current?.focus({ preventScroll: true });
    const clicked = (event: MouseEvent) => {
      // a click of the mouse, not Enter on a button that was reached by the keys
      const control = event.detail > 0 ? (event.target as HTMLElement).closest('button, a[href]') : null;
      if (!control) return;
      setTimeout(() => {
        const at = document.activeElement;
        if ((at === control || at === document.body) && !document.querySelector(OVER)) back();
      });
    };
    const pressed = (event: KeyboardEvent) => {
      if (event.defaultPrevented || document.querySelector(OVER)) return;
      const at = event.target as HTMLElement;
      if (event.key === 'Escape' && at.closest('button, a[href]')) back();
      if (at !== body.current && at !== document.body) return;
      const page = scroller();
      if (event.key === 'ArrowDown') page?.scrollBy({ top: BY_ARROW });
      else if (event.key === 'ArrowUp') page?.scrollBy({ top: -BY_ARROW });
    };
    document.addEventListener('click', clicked);
    document.addEventListener('keydown', pressed);
    return () => {
      document.removeEventListener('click', clicked);
      document.removeEventListener('keydown', pressed);
    };
  }, [body]);
}
