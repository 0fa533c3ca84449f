import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../shared/api/http';
import { threads } from './Rail';

const row = (kind: string, number: string, parents: [string, string][] = [], dropped = false) =>
  ({
    aspect: 'GOODS',
    document: { kind, number },
    parents: parents.map(([k, n]) => ({ kind: k, number: n })),
    dropped,
    units: [],
  }) as unknown as Schemas['RowView'];

describe('threads', () => {
  it('run from the row of a parent to the row of what came from it', () => {
    const rows = [
      row('ORDER', 'SO-1'),
      row('DISPATCH', 'D-1', [['ORDER', 'SO-1']], true),
      row('DISPATCH', 'D-2', [['ORDER', 'SO-1']]),
      row('INVOICE', '2026-1', [['DISPATCH', 'D-2']]),
      row('PAYMENT', 'P-1', [['INVOICE', '2026-1']]),
    ];
    expect(threads(rows).map(({ from, to, dropped }) => [from, to, dropped])).toEqual([
      [0, 1, true],
      [0, 2, false],
      [2, 3, false],
      [3, 4, false],
    ]);
  });
  it('begin nowhere when the parent is filtered out', () => {
    expect(threads([row('INVOICE', '2026-1', [['DISPATCH', 'D-9']])])).toEqual([]);
  });
});
