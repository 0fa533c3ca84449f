import { memo, type ReactNode } from 'react';
import { onRow } from '../rows';
import { SelectBox } from '../selection';
import type { Column, Row } from './api';
import { shown } from './cells';
import { isFigure } from './columns';
import { styleOf } from './widths';

/** Kinds of columns that are not broken. */
const IN_ONE_LINE: Column['kind'][] = ['DAY', 'MOMENT', 'AS_OF'];

/** A row of a list. It is drawn again where something of it has changed, not with every key that moves along the others. */
export const Line = memo(function Line({
  row,
  index,
  isAt,
  box,
  columns,
  widths,
  place,
  cell,
  className,
  measure,
  onOpen,
  onToggle,
}: {
  row: Row;
  index: number;
  isAt: boolean;
  /** before it: whether it is selected; NONE where it can't be; undefined where no row can */
  box: boolean | 'NONE' | undefined;
  columns: Column[];
  widths: Record<string, number>;
  place?: (row: Row) => string;
  cell?: (column: string, row: Row) => ReactNode;
  className?: (row: Row) => string;
  measure?: (element: HTMLElement | null) => void;
  onOpen: (row: Row) => void;
  onToggle: (row: Row) => void;
}) {
  return (
    <tr
      ref={measure}
      data-index={index}
      className={`clickable${isAt ? ' at' : ''} ${className?.(row) ?? ''}`}
      onClick={onRow(() => onOpen(row))}
    >
      {box !== undefined && (
        <td>{box !== 'NONE' && <SelectBox name={row.opens} checked={box} onToggle={() => onToggle(row)} />}</td>
      )}
      {columns.map((column) => (
        <td
          key={column.name}
          style={styleOf(widths, column.name)}
          className={isFigure(column) ? 'num' : IN_ONE_LINE.includes(column.kind) ? 'nowrap' : undefined}
        >
          {cell?.(column.name, row) ?? shown(column, row, place)}
        </td>
      ))}
    </tr>
  );
});
