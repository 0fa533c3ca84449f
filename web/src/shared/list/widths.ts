import { useLocalStorage } from '@mantine/hooks';
import type { CSSProperties } from 'react';

/** In pixels: as narrow as a column can be, and how far an arrow key moves its edge. */
export const NARROWEST = 40;
export const STEP = 16;

export type Widths = ReturnType<typeof useWidths>;

/** How wide somebody likes the columns of a list; kept by the browser. What is not said is as wide as its content. */
export function useWidths(list: string) {
  const [widths, setWidths] = useLocalStorage<Record<string, number>>({
    key: `widths of ${list}`,
    defaultValue: {},
    getInitialValueInEffect: false,
  });
  return {
    /** @param width undefined for as wide as its content */
    set: (column: string, width: number | undefined) =>
      setWidths((before) => {
        const others = Object.fromEntries(Object.entries(before).filter(([name]) => name !== column));
        return width === undefined ? others : { ...others, [column]: Math.max(NARROWEST, Math.round(width)) };
      }),
    none: () => setWidths({}),
    /** by column, in pixels */
    all: widths,
  };
}

export function styleOf(widths: Record<string, number>, column: string): CSSProperties | undefined {
  const width = widths[column];
  return width === undefined ? undefined : { width, minWidth: width, maxWidth: width };
}
