import { currency } from '../../shared/currency';
import { figure, isZero, orDash, trim, words } from '../../shared/format';
import { present } from '../../shared/present';
import { Doc } from '../../shared/ui';
import { priceColumn } from '../../shared/ui/Price';
import { type Column, Table } from '../../shared/ui/Table';
import type { Sheet } from './api';

type Line = Sheet['order']['lines'][number];

/** An order's lines with where their units are. */
export function SheetLines({ sheet }: { sheet: Sheet }) {
  const back = sheet.flows.some((flow) => !isZero(flow.returned) || !isZero(flow.credited));
  const units = (
    head: string,
    of: 'cancelled' | 'reserved' | 'waiting' | 'staged' | 'dispatched' | 'returned' | 'billed' | 'credited',
  ): Column<Line> => ({
    head,
    num: true,
    cell: (line) =>
      orDash(
        present(
          sheet.flows.find((flow) => flow.no === line.no),
          `the flow of line ${line.no}`,
        )[of],
      ),
  });
  return (
    <Table
      caption="Lines"
      className="inset"
      of={sheet.order.lines}
      keyOf={(line) => line.no}
      drawn={(line) => (line.item ? undefined : <Said line={line} columns={back ? 11 : 9} />)}
      columns={[
        { head: 'Line', num: true, cell: (line) => line.no },
        { head: 'Item', cell: (line) => <Item line={line} /> },
        { head: 'Ordered', num: true, cell: (line) => trim(line.quantity) },
        units('Cancelled', 'cancelled'),
        units('Reserved', 'reserved'),
        units('Waits', 'waiting'),
        units('Staged', 'staged'),
        units('Shipped', 'dispatched'),
        back && units('Returned', 'returned'),
        units('Billed', 'billed'),
        back && units('Credited', 'credited'),
        priceColumn(),
        { head: <>Net {currency()}</>, num: true, cell: (line) => figure(line.net) },
      ]}
    />
  );
}

/** A text between lines, or what those before it come to. */
function Said({ line, columns }: { line: Line; columns: number }) {
  const sums = line.kind === 'SUBTOTAL';
  return (
    <tr>
      <td className="num">{line.no}</td>
      <td colSpan={columns} className={sums ? 'strong' : 'muted'}>
        {line.description}
      </td>
      <td className="num strong">{sums && figure(line.net)}</td>
    </tr>
  );
}

function Item({ line }: { line: Line }) {
  return (
    <>
      {line.description} <span className="mono muted small nowrap">{line.item}</span>
      {(line.site || line.shortage === 'DROP') && (
        <div className="muted small">
          {[line.site && `from ${line.site}`, line.shortage === 'DROP' && 'shortage is cancelled']
            .filter(Boolean)
            .join(', ')}
        </div>
      )}
      {line.source && (
        <div className="muted small">
          from {words(line.source.kind)} <Doc kind={line.source.kind} number={line.source.number} />, line{' '}
          {line.source.line}
        </div>
      )}
    </>
  );
}
