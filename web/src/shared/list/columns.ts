import type { Column } from './api';

export const isFigure = (column: Column) => ['AMOUNT', 'QUANTITY', 'COUNT'].includes(column.kind);
