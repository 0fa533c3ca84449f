import { figure, trim } from '../format';
import type { Column } from './api';

export const isFigure = (column: Column) => ['AMOUNT', 'QUANTITY', 'COUNT'].includes(column.kind);

/** A figure of a column, or what its figures come to. */
export const figureOf = (column: Column | undefined, text: string) =>
  column?.kind === 'AMOUNT' ? figure(text) : trim(text);
