import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { date, moment } from '../format';
import { Doc, placeOf } from '../ui';
import type { Column, Row } from './api';
import { figureOf } from './columns';

type Coded = { code: string; name: string };

/** A text or figure of a row as the server wrote it; empty for none. */
export const textIn = (row: Row, column: string) => textOf(row.cells[column]);

const textOf = (value: unknown) => (typeof value === 'string' || typeof value === 'number' ? String(value) : '');

const isCoded = (value: unknown): value is Coded => typeof value === 'object' && value !== null && 'code' in value;

/** The name of what the row is about, which opens it. */
const opened = (row: Row, name: string, place?: (row: Row) => string) => {
  const to = place?.(row) ?? placeOf(row.kind, row.opens);
  return to ? <Link to={to}>{name}</Link> : name;
};

/** What stands in a cell. */
export function shown(column: Column, row: Row, place?: (row: Row) => string): ReactNode {
  const value = row.cells[column.name];
  if (isCoded(value))
    return column.opens === row.kind && value.code === row.opens ? opened(row, value.name, place) : value.name;
  const text = textOf(value);
  switch (column.kind) {
    case 'DAY':
    case 'AS_OF':
      return date(text);
    case 'MOMENT':
      return text && moment(text);
    case 'AMOUNT':
    case 'QUANTITY':
    case 'COUNT':
      return text === '' ? '–' : figureOf(column, text);
    case 'CHOICE':
    case 'FLAG':
      return column.choices.find((choice) => choice.value === text)?.words ?? text;
    default:
      if (!column.opens || !text) return text;
      if (text !== row.opens) return <Doc kind={column.opens} number={text} />;
      return place ? (
        <Link className="mono" to={place(row)}>
          {text}
        </Link>
      ) : (
        <Doc kind={row.kind} number={text} />
      );
  }
}

/** The code that a row names; empty for none. */
export function codeIn(row: Row, column: string): string {
  const value = row.cells[column];
  return isCoded(value) ? value.code : '';
}
