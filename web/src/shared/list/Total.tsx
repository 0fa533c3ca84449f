import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../api/http';
import { figure } from '../format';
import { MOST_SUMMED, selectedQuery, totalsQuery, type Asked, type Column, type ListView, type Row } from './api';
import { figureOf, isFigure } from './columns';

/** What all rows come to by a column; nothing where that is not told. */
function written(column: Column, of: string | undefined) {
  if (of === undefined || !column.measure) return '';
  const told = figureOf(column, of);
  return column.measure === 'MEDIAN' ? `median ${told}` : told;
}

/** How many rows there are, or at least. */
const counted = (list: ListView, { count, isWhole }: Schemas['TotalsView']) =>
  `${figure(String(count))}${isWhole ? '' : '+'} ${count === 1 ? list.one : list.many}`;

/** The last row: how many there are of all pages, and what they add up to. */
export function Total({
  list,
  asked,
  columns,
  selects,
  chosen,
}: {
  list: ListView;
  asked: Asked;
  columns: Column[];
  /** boxes stand before them */
  selects: boolean;
  chosen: Row[];
}) {
  // of which filters all rows were asked to be counted
  const [all, setAll] = useState<string>();
  const filters = asked.filter.join('\n');
  const isAll = all === filters;
  const some = useQuery(totalsQuery(list.name, asked)).data;
  const whole = useQuery({ ...totalsQuery(list.name, asked, true), enabled: isAll });
  const totals = (isAll ? whole.data : undefined) ?? some;
  const [first, ...rest] = columns;
  if (!first) return null;
  return (
    <tfoot>
      <tr className="total">
        {selects && <td />}
        <td className={isFigure(first) ? 'num' : 'nowrap'}>
          {totals ? counted(list, totals) : '…'}
          {totals && !totals.isWhole && (
            <span className="beyond">
              <button type="button" className="plain" disabled={isAll} onClick={() => setAll(filters)}>
                {isAll ? 'Counting…' : 'Count and add up all'}
              </button>
            </span>
          )}
        </td>
        {rest.map((column) => (
          <td key={column.name} className={isFigure(column) ? 'num' : undefined}>
            {written(column, totals?.sums[column.name])}
          </td>
        ))}
      </tr>
      <SelectedTotal list={list} chosen={chosen} columns={columns} asked={asked} />
    </tfoot>
  );
}

/** Of the selected rows the same. */
function SelectedTotal({
  list,
  chosen,
  columns,
  asked,
}: {
  list: ListView;
  chosen: Row[];
  columns: Column[];
  asked: Asked;
}) {
  const summed = columns.filter((column) => column.measure === 'SUM');
  const keys = chosen.map((row) => row.key);
  const ofDay = asked.filter.filter((one) =>
    list.columns.some(({ kind, name }) => kind === 'AS_OF' && one.startsWith(`${name}:`)),
  );
  const totals = useQuery(selectedQuery(list.name, summed.length > 0 ? keys : [], asked.columns, ofDay)).data;
  const [first, ...rest] = columns;
  if (!first || chosen.length === 0) return null;
  return (
    <tr className="total">
      <td />
      <td className={isFigure(first) ? 'num' : 'nowrap'}>{chosen.length} selected</td>
      {rest.map((column) => (
        <td key={column.name} className={isFigure(column) ? 'num' : undefined}>
          {summed.includes(column) && (chosen.length > MOST_SUMMED ? '–' : written(column, totals?.sums[column.name]))}
        </td>
      ))}
    </tr>
  );
}
