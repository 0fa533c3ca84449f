import { useEffect, useRef } from 'react';

/** Single keys of a page; silent while somebody types or a dialog is open. */
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
      const act = latest.current[name];
      if (act) {
        event.preventDefault();
        act();
      }
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
