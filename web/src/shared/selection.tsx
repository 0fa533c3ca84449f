import { useState } from 'react';
import { useKeys, usePlace } from './keys';

/** Which rows of a list are selected. */
export function useSelectedBy<T>(rows: T[], keyOf: (row: T) => string, can: (row: T) => boolean = () => true) {
  const [selected, setSelected] = useState<Set<string>>(new Set());
  const selectable = rows.filter(can);
  const toggle = (row: T) => {
    if (!can(row)) return;
    const changed = new Set(selected);
    if (!changed.delete(keyOf(row))) changed.add(keyOf(row));
    setSelected(changed);
  };
  const chosen = selectable.filter((row) => selected.has(keyOf(row)));
  return {
    can,
    toggle,
    has: (row: T) => selected.has(keyOf(row)),
    chosen,
    none: () => setSelected(new Set()),
    /** these, whatever was selected before */
    just: (some: T[]) => setSelected(new Set(some.filter(can).map(keyOf))),
    areAll: selectable.length > 0 && chosen.length === selectable.length,
    all: () => setSelected(new Set(chosen.length === selectable.length ? [] : selectable.map(keyOf))),
  };
}

/** Which rows of a list are selected, with the keys for it; rows that can't be are passed over. */
export function useSelection<T>(
  rows: T[],
  keyOf: (row: T) => string,
  onOpen: (row: T) => void,
  can: (row: T) => boolean = () => true,
) {
  const [at, , moves] = usePlace(rows.length);
  const selected = useSelectedBy(rows, keyOf, can);
  useKeys({
    ...moves,
    x: () => rows[at] && selected.toggle(rows[at]),
    enter: () => rows[at] && onOpen(rows[at]),
  });
  return { at, ...selected };
}

export type Selection<T> = ReturnType<typeof useSelection<T>>;

/** The box at the head of a list: all of its rows, or none. */
export function SelectAll<T>({ selection }: { selection: Omit<Selection<T>, 'at'> }) {
  return (
    <th className="wide-24">
      <input type="checkbox" aria-label="Select all" checked={selection.areAll} onChange={selection.all} />
    </th>
  );
}

/** The box of a row that can be selected. */
export function SelectOne<T>({ selection, row, name }: { selection: Omit<Selection<T>, 'at'>; row: T; name: string }) {
  return (
    <td>
      {selection.can(row) && (
        <SelectBox name={name} checked={selection.has(row)} onToggle={() => selection.toggle(row)} />
      )}
    </td>
  );
}

export function SelectBox({ name, checked, onToggle }: { name: string; checked: boolean; onToggle: () => void }) {
  return <input type="checkbox" aria-label={`Select ${name}`} checked={checked} onChange={onToggle} />;
}
