import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useEffect, useMemo, useRef } from 'react';
import type { Row } from './api';

/** More rows than that are drawn where they are in sight alone. */
const DRAWN = 200;
/** What a row is high until it was measured. */
const ROW_HEIGHT = 33;

const scrolledOf = (body: HTMLElement | null) => body?.closest('.page-scroll') ?? null;

/** How far down the rows begin in what is scrolled. */
function aboveOf(body: HTMLElement | null): number {
  const scrolled = scrolledOf(body);
  return body && scrolled
    ? body.getBoundingClientRect().top - scrolled.getBoundingClientRect().top + scrolled.scrollTop
    : 0;
}

/** Which rows are drawn, with the room that the others would take above and below them. */
export function useDrawn(rows: Row[], at: number) {
  const body = useRef<HTMLTableSectionElement>(null);
  const isMany = rows.length > DRAWN;
  const last = useRef(at);
  const above = isMany ? aboveOf(body.current) : 0;
  // eslint-disable-next-line react-hooks/incompatible-library -- this hook alone is not memoized for it
  const virtual = useVirtualizer({
    count: rows.length,
    enabled: isMany,
    getScrollElement: () => scrolledOf(body.current),
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (index) => rows[index]?.key ?? index,
    overscan: 5,
    scrollMargin: above,
  });
  useEffect(() => {
    // only when the keys have moved: whoever reads on with the mouse is not taken back
    if (isMany && last.current !== at) virtual.scrollToIndex(at);
    last.current = at;
  }, [isMany, at, virtual]);
  const items = virtual.getVirtualItems();
  const size = virtual.getTotalSize();
  // whoever turns the wheel far does not wait for the rows: they are drawn a few at a time, between what is scrolled
  const window = useDeferredValue(
    useMemo(
      () => ({
        items,
        before: Math.max(0, (items[0]?.start ?? above) - above),
        behind: Math.max(0, size - ((items.at(-1)?.end ?? above) - above)),
      }),
      [items, size, above],
    ),
  );
  if (!isMany)
    return { body, drawn: rows.map((row, index) => ({ row, index })), before: 0, behind: 0, measure: undefined };
  return {
    body,
    drawn: window.items.flatMap(({ index }) => {
      const row = rows[index];
      return row ? [{ row, index }] : [];
    }),
    before: window.before,
    behind: window.behind,
    measure: virtual.measureElement,
  };
}

/** The room that rows take which are not drawn. */
export function Room({ of }: { of: number }) {
  return of > 0 ? (
    <tr aria-hidden="true">
      <td style={{ height: of, padding: 0, border: 0 }} />
    </tr>
  ) : null;
}
