import type { Column, ListView, Row } from '../shared/list/api';
import { answers } from './server';

export const column = (name: string, label: string, kind: Column['kind'], more: Partial<Column> = {}): Column => ({
  name,
  label,
  words: label.toLowerCase(),
  kind,
  choices: [],
  opens: null,
  isShown: true,
  isSorted: false,
  measure: null,
  isGrouped: kind === 'CHOICE' || kind === 'CODE' || kind === 'DAY',
  ...more,
});

/** A list of documents that has these rows and no view. */
export function listed(name: string, columns: Column[], rows: Row[]) {
  const list: ListView = {
    name,
    title: name,
    one: 'row',
    many: 'rows',
    isRegister: false,
    day: '',
    views: [],
    columns,
  };
  answers('get', '/api/lists', [list]);
  answers('get', `/api/lists/${name}/views`, []);
  answers('get', `/api/lists/${name}/totals`, { count: rows.length, sums: {}, proof: null });
  answers('get', `/api/lists/${name}/selected`, { count: 0, sums: {}, proof: null });
  return answers('get', `/api/lists/${name}/rows`, {
    rows,
    next: null,
    filters: [],
    columns: columns.map((one) => one.name),
    sort: '',
  });
}

/** A row that opens a document. */
export const listRow = (kind: string, number: string, cells: Row['cells'] = {}): Row => ({
  key: number,
  opens: number,
  kind,
  version: null,
  cells: { number, ...cells },
});
