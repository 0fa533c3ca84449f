import { useState } from 'react';

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

type Selection<T> = ReturnType<typeof useSelectedBy<T>>;

/** The box at the head of a list: all of its rows, or none. */
export function SelectAll<T>({ selection }: { selection: Selection<T> }) {
  return (
    <th className="wide-24">
      <input type="checkbox" aria-label="Select all" checked={selection.areAll} onChange={selection.all} />
    </th>
  );
}

/** The box of a row. */
export function SelectBox({ name, checked, onToggle }: { name: string; checked: boolean; onToggle: () => void }) {
  return <input type="checkbox" aria-label={`Select ${name}`} checked={checked} onChange={onToggle} />;
}
