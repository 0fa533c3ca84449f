import { currency } from '../../shared/currency';
import { figure, isZero, orDash, price, trim, words } from '../../shared/format';
import { present } from '../../shared/present';
import { Doc } from '../../shared/ui';
import type { Sheet } from './api';

/** An order's lines with where their units are. */
export function SheetLines({ sheet }: { sheet: Sheet }) {
  const back = sheet.flows.some((flow) => !isZero(flow.returned) || !isZero(flow.credited));
  return (
    <table className="rows inset">
      <caption className="unseen">Lines</caption>
      <thead>
        <tr>
          <th className="num">Line</th>
          <th>Item</th>
          <th className="num">Ordered</th>
          <th className="num">Cancelled</th>
          <th className="num">Reserved</th>
          <th className="num">Waits</th>
          <th className="num">Staged</th>
          <th className="num">Shipped</th>
          {back && <th className="num">Returned</th>}
          <th className="num">Billed</th>
          {back && <th className="num">Credited</th>}
          <th className="num">Price</th>
          <th className="num">Net {currency()}</th>
        </tr>
      </thead>
      <tbody>
        {sheet.order.lines.map((line) => {
          const flow = present(
            sheet.flows.find((f) => f.no === line.no),
            `the flow of line ${line.no}`,
          );
          if (!line.item) {
            return (
              <tr key={line.no}>
                <td className="num">{line.no}</td>
                <td colSpan={back ? 11 : 9} className={line.kind === 'SUBTOTAL' ? 'strong' : 'muted'}>
                  {line.description}
                </td>
                <td className="num strong">{line.kind === 'SUBTOTAL' && figure(line.net)}</td>
              </tr>
            );
          }
          return (
            <tr key={line.no}>
              <td className="num">{line.no}</td>
              <td>
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
              </td>
              <td className="num">{trim(line.quantity)}</td>
              {[
                flow.cancelled,
                flow.reserved,
                flow.waiting,
                flow.staged,
                flow.dispatched,
                ...(back ? [flow.returned] : []),
                flow.billed,
                ...(back ? [flow.credited] : []),
              ].map((units, index) => (
                <td className="num" key={index}>
                  {orDash(units)}
                </td>
              ))}
              <td className="num">
                {price(line.price)}
                {Number(line.discount) !== 0 && <span className="muted small"> −{trim(line.discount)} %</span>}
              </td>
              <td className="num">{figure(line.net)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
