import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../shared/api/http';
import { date, figure, price, trim } from '../../shared/format';
import { Doc, Waiting } from '../../shared/ui';
import { sheetQuery, type Sheet } from './api';

type Line = Schemas['LineView'];

/** An order and the one that it shares a PO number with, line beside line; items that both have stand in one row. */
export function SideBySide({ sheet, other }: { sheet: Sheet; other: string }) {
  const query = useQuery(sheetQuery(other));
  if (!query.data) return <Waiting query={query} />;
  const mine = sheet.order;
  const theirs = query.data.order;
  const left = [...theirs.lines];
  const rows: [Line | undefined, Line | undefined][] = mine.lines.map((line) => {
    const at = left.findIndex((one) => one.item === line.item);
    return [line, at < 0 ? undefined : left.splice(at, 1)[0]];
  });
  left.forEach((line) => rows.push([undefined, line]));
  const figures = (line: Line | undefined, against: Line | undefined) =>
    line ? (
      <>
        <td className={`num${against && against.quantity !== line.quantity ? ' strong' : ''}`}>
          {trim(line.quantity)}
        </td>
        <td className={`num${against && against.price !== line.price ? ' strong' : ''}`}>{price(line.price)}</td>
        <td className="num">{figure(line.net)}</td>
      </>
    ) : (
      <td colSpan={3} className="muted num">
        not on this order
      </td>
    );
  return (
    <table className="rows inset as-would-be">
      <caption className="unseen">Both orders side by side</caption>
      <thead>
        <tr>
          <td />
          <th colSpan={3} className="num">
            This order, {date(mine.orderedOn)}, by {mine.author}
          </th>
          <th colSpan={3} className="num">
            <Doc kind="ORDER" number={theirs.number} />, {date(theirs.orderedOn)}, by {theirs.author}
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([line, against], index) => (
          <tr key={index}>
            <td>
              {(line ?? against)?.description} <span className="mono muted small">{(line ?? against)?.item}</span>
            </td>
            {figures(line, against)}
            {figures(against, line)}
          </tr>
        ))}
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
      </tbody>
    </table>
  );
}
