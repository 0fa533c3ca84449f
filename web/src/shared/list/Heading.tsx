import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { currency } from '../currency';
import type { Asked, Column } from './api';
import { isFigure } from './columns';
import { NARROWEST, STEP, styleOf, type Widths } from './widths';

/** The head of a column: sorts by it, and makes it as wide as somebody likes. */
export function Heading({
  column,
  asked,
  own,
  widths,
  onSort,
}: {
  column: Column;
  asked: Asked;
  /** the list's own sequence, where none is asked for */
  own: string;
  widths: Widths;
  onSort: (sort: string) => void;
}) {
  const label = column.label + (column.kind === 'AMOUNT' ? ` ${currency()}` : '');
  const className = isFigure(column) ? 'num' : undefined;
  const wayOf = (sort: string) =>
    sort === column.name ? 'ascending' : sort === `-${column.name}` ? 'descending' : 'none';
  const way = wayOf(asked.sort || own);
  const next = { none: column.name, ascending: `-${column.name}`, descending: '' }[wayOf(asked.sort)];
  return (
    <th className={className} style={styleOf(widths.all, column.name)} aria-sort={column.isSorted ? way : undefined}>
      {column.isSorted ? (
        <button type="button" className="sort" onClick={() => onSort(next)}>
          {label}
          <span aria-hidden="true">{{ none: '', ascending: ' ↑', descending: ' ↓' }[way]}</span>
        </button>
      ) : (
        label
      )}
      <Edge column={column} widths={widths} />
    </th>
  );
}

/** The right edge of a column: drawn aside, moved by the arrow keys, or let go by a double click. */
function Edge({ column, widths }: { column: Column; widths: Widths }) {
  const handle = useRef<HTMLSpanElement>(null);
  const [from, setFrom] = useState<{ x: number; width: number }>();
  const width = widths.all[column.name];
  const now = () => handle.current?.parentElement?.offsetWidth ?? NARROWEST;
  const begun = (event: PointerEvent) => {
    event.preventDefault();
    handle.current?.setPointerCapture(event.pointerId);
    setFrom({ x: event.clientX, width: now() });
  };
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    widths.set(column.name, now() + by);
  };
  return (
    <span
      ref={handle}
      role="slider"
      aria-label={`Width of ${column.label}`}
      aria-valuemin={NARROWEST}
      aria-valuenow={width ?? 0}
      aria-valuetext={width === undefined ? 'as wide as its content' : `${width} pixels`}
      tabIndex={0}
      className="edge"
      onPointerDown={begun}
      onPointerMove={(event) => from && widths.set(column.name, from.width + event.clientX - from.x)}
      onPointerUp={() => setFrom(undefined)}
      onPointerCancel={() => setFrom(undefined)}
      onDoubleClick={() => widths.set(column.name, undefined)}
      onKeyDown={keys}
    />
  );
}
