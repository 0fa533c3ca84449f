import { useState } from 'react';
import { useKeys, usePlace } from './keys';

/** Which rows of a list are selected, with the keys for it. */
export function useSelection<T>(rows: T[], keyOf: (row: T) => string, onOpen: (row: T) => void) {
  const [at, , moves] = usePlace(rows.length);
  const [selected, setSelected] = useState<Set<string>>(new Set());
  const toggle = (row: T) => {
    const changed = new Set(selected);
    if (!changed.delete(keyOf(row))) changed.add(keyOf(row));
    setSelected(changed);
  };
  useKeys({
    ...moves,
    x: () => rows[at] && toggle(rows[at]),
    enter: () => rows[at] && onOpen(rows[at]),
  });
  const chosen = rows.filter((row) => selected.has(keyOf(row)));
  return {
    at,
    toggle,
    has: (row: T) => selected.has(keyOf(row)),
    chosen,
    none: () => setSelected(new Set()),
    all: () => setSelected(new Set(chosen.length === rows.length ? [] : rows.map(keyOf))),
  };
}

export type Selection<T> = ReturnType<typeof useSelection<T>>;

/** The box at the head of a list: all of its rows, or none. */
export function SelectAll<T>({ selection, rows }: { selection: Selection<T>; rows: T[] }) {
  return (
    <th className="wide-24">
      <input
        type="checkbox"
        aria-label="Select all"
        checked={rows.length > 0 && selection.chosen.length === rows.length}
        onChange={selection.all}
      />
    </th>
  );
}

/** The box of a row. */
export function SelectOne<T>({ selection, row, name }: { selection: Selection<T>; row: T; name: string }) {
  return (
    <td>
      <input
        type="checkbox"
        aria-label={`Select ${name}`}
        checked={selection.has(row)}
        onChange={() => selection.toggle(row)}
      />
    </td>
  );
}
