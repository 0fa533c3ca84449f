import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../shared/api/http';
import { date, figure, price, trim } from '../../shared/format';
import { Doc, Waiting } from '../../shared/ui';
import { type Column, Table } from '../../shared/ui/Table';
import { sheetQuery, type Sheet } from './api';

type Line = Schemas['LineView'];
/** A line of this order and one of the other. */
type Pair = [Line | undefined, Line | undefined];

/** An order and the one that it shares a PO number with, line beside line; items that both have stand in one row. */
export function SideBySide({ sheet, other }: { sheet: Sheet; other: string }) {
  const query = useQuery(sheetQuery(other));
  if (!query.data) return <Waiting query={query} />;
  const mine = sheet.order;
  const theirs = query.data.order;
  const left = [...theirs.lines];
  const rows: Pair[] = mine.lines.map((line) => {
    const at = left.findIndex((one) => one.item === line.item);
    return [line, at < 0 ? undefined : left.splice(at, 1)[0]];
  });
  left.forEach((line) => rows.push([undefined, line]));
  const figures = (of: (pair: Pair) => Line | undefined, against: (pair: Pair) => Line | undefined): Column<Pair>[] => {
    const told = (field: 'quantity' | 'price' | 'net', words: (value: string) => string): Column<Pair> => ({
      num: true,
      className: (pair) =>
        field !== 'net' && of(pair) && against(pair) && against(pair)?.[field] !== of(pair)?.[field] ? 'strong' : '',
      across: (pair) => (of(pair) ? 1 : 0),
      cell: (pair) => words(of(pair)?.[field] ?? ''),
    });
    return [
      {
        num: true,
        className: 'muted',
        across: (pair) => (of(pair) ? 0 : 3),
        cell: () => 'not on this order',
      },
      told('quantity', trim),
      told('price', price),
      told('net', figure),
    ];
  };
  return (
    <Table
      caption="Both orders side by side"
      className="inset as-would-be"
      of={rows}
      keyOf={(_, index) => index}
      heads={
        <tr>
          <td />
          <th colSpan={3} className="num">
            This order, {date(mine.orderedOn)}, by {mine.author}
          </th>
          <th colSpan={3} className="num">
            <Doc kind="ORDER" number={theirs.number} />, {date(theirs.orderedOn)}, by {theirs.author}
          </th>
        </tr>
      }
      columns={[
        {
          cell: ([line, against]) => (
            <>
              {(line ?? against)?.description} <span className="mono muted small">{(line ?? against)?.item}</span>
            </>
          ),
        },
        ...figures(
          ([line]) => line,
          ([, against]) => against,
        ),
        ...figures(
          ([, against]) => against,
          ([line]) => line,
        ),
      ]}
      after={
        <tr className="total">
          <td>
            net{' '}
            <span className="muted small">
              requested {date(mine.requestedOn)}, the other {date(theirs.requestedOn)}
            </span>
          </td>
          <td colSpan={3} className="num">
            {figure(mine.net)}
          </td>
          <td colSpan={3} className="num">
            {figure(theirs.net)}
          </td>
        </tr>
      }
    />
  );
}
