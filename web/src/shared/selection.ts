import { useState } from 'react';
import { useKeys } from './keys';

/** Which rows of a list are selected, with the keys for it. */
export function useSelection<T>(rows: T[], keyOf: (row: T) => string, onOpen: (row: T) => void) {
  const [at, setAt] = useState(0);
  const [selected, setSelected] = useState<Set<string>>(new Set());
  const toggle = (row: T) => {
    const changed = new Set(selected);
    if (!changed.delete(keyOf(row))) changed.add(keyOf(row));
    setSelected(changed);
  };
  useKeys({
    j: () => setAt(Math.min(at + 1, rows.length - 1)),
    k: () => setAt(Math.max(at - 1, 0)),
    x: () => rows[at] && toggle(rows[at]),
    enter: () => rows[at] && onOpen(rows[at]),
  });
  const chosen = rows.filter((row) => selected.has(keyOf(row)));
  return { at, toggle, has: (row: T) => selected.has(keyOf(row)), chosen, none: () => setSelected(new Set()), all: () => setSelected(new Set(chosen.length === rows.length ? [] : rows.map(keyOf))) };
}
