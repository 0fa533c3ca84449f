import type { MouseEvent } from 'react';

/** A click on a row opens it; links, buttons and boxes in it do what they do, also with Ctrl. */
export const onRow = (open: () => void) => (event: MouseEvent<HTMLElement>) => {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.shiftKey) return;
  if ((event.target as HTMLElement).closest('a, button, input, select, label')) return;
  open();
};
