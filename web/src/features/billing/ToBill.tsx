import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { figure, isZero, plain, shortDate } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, tell, tellProblem, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { useUnsaved } from '../../shared/unsaved';
import { BatchLog } from '../batch';
import { toBillQuery } from './api';

/** Orders by customer; quantities can be lowered, and what is ticked goes on one invoice. */
export function ToBill() {
  const { may } = useSession();
  const list = useInfiniteQuery(toBillQuery);
  const [ticked, setTicked] = useState<string[]>([]);
  const [quantities, setQuantities] = useState<Record<string, string>>({});
  useUnsaved(Object.keys(quantities).length > 0);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const chosen = rows.filter((row) => ticked.includes(row.order));
  const customers = new Set(chosen.map((row) => row.customer));
  const bill = useMutation({
    mutationFn: (orders: Schemas['ToBillRow'][]) => {
      const changed = orders.some((row) =>
        row.lines.some((line) => quantities[`${row.order}/${line.line}`] !== undefined),
      );
      const lines = orders.flatMap((row) =>
        row.lines
          .map((line) => ({
            order: row.order,
            line: line.line,
            quantity: quantities[`${row.order}/${line.line}`] ?? line.toBill,
          }))
          .filter((line) => !isZero(line.quantity)),
      );
      return answer(
        client.POST('/api/invoices', {
          body: { orders: orders.map((row) => row.order), lines: changed ? lines : undefined },
          ...once(),
        }),
      );
    },
    onSuccess: (invoice) => {
      tell(`Billed as invoice ${invoice.number}, ${currency()} ${figure(invoice.gross)}.`);
      setTicked([]);
      setQuantities({});
    },
    onError: tellProblem,
  });
  const each = useMutation({
    mutationFn: (orders: Schemas['ToBillRow'][]) => {
      const invoices = [...new Set(orders.map((row) => row.customer))].map((customer) => ({
        orders: orders.filter((row) => row.customer === customer).map((row) => row.order),
      }));
      return answer(client.POST('/api/batches/billings', { body: { invoices }, ...once() }));
    },
    onSuccess: () => setTicked([]),
    onError: tellProblem,
  });
  if (!list.data) return <Waiting query={list} />;
  const changed = Object.keys(quantities).length > 0;
  const toggle = (order: string) =>
    setTicked(ticked.includes(order) ? ticked.filter((o) => o !== order) : [...ticked, order]);
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>
            {rows.length === 0 ? 'Nothing to bill' : `${rows.length}${list.hasNextPage ? '+' : ''} orders to bill`}
          </h1>
        </div>
        <table className="rows">
          <caption className="unseen">Orders to bill</caption>
          <thead>
            <tr>
              <th className="wide-24">
                <input
                  type="checkbox"
                  aria-label="Select all"
                  checked={rows.length > 0 && chosen.length === rows.length}
                  onChange={() => setTicked(chosen.length === rows.length ? [] : rows.map((row) => row.order))}
                />
              </th>
              <th>Order</th>
              <th>Shipped or done</th>
              <th>Customer PO</th>
              <th>Since</th>
              <th className="num">To bill</th>
              <th className="num">Net {currency()}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <Fragment key={row.order}>
                {rows[index - 1]?.customer !== row.customer && (
                  <tr className="group">
                    <td colSpan={7}>{row.customerName}</td>
                  </tr>
                )}
                {row.lines.map((line, at) => {
                  const key = `${row.order}/${line.line}`;
                  return (
                    <tr key={key}>
                      <td>
                        {at === 0 && (
                          <input
                            type="checkbox"
                            aria-label={`Bill ${row.order}`}
                            checked={ticked.includes(row.order)}
                            onChange={() => toggle(row.order)}
                          />
                        )}
                      </td>
                      <td>{at === 0 && <Doc kind="ORDER" number={row.order} />}</td>
                      <td>{line.description}</td>
                      <td className="mono">{at === 0 && row.po}</td>
                      <td className="nowrap">{at === 0 && shortDate(row.since)}</td>
                      <td className="num wide-90">
                        <FigureInput
                          label={`Quantity of ${key}`}
                          value={quantities[key] ?? plain(line.toBill)}
                          onChange={(to) => setQuantities({ ...quantities, [key]: to })}
                        />
                      </td>
                      <td className="num">{figure(line.net)}</td>
                    </tr>
                  );
                })}
              </Fragment>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>Dispatches that depart and services that are done show here.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!may('BILL') || bill.isPending || customers.size !== 1}
          onClick={() => bill.mutate(chosen)}
        >
          Bill {chosen.length > 1 ? `${chosen.length} orders on one invoice` : 'the order'}
        </button>
        <button
          className="button"
          disabled={!may('BILL') || each.isPending || chosen.length === 0 || changed}
          onClick={() => each.mutate(chosen)}
        >
          Bill {chosen.length || ''} selected, one invoice per customer
        </button>
        <span className="muted small">
          {changed
            ? 'Bill changed quantities one customer at a time.'
            : customers.size > 1
              ? 'An invoice covers orders of one customer.'
              : 'The invoice gets its number when it is posted.'}
        </span>
        <span className="gap" />
        <Link className="small" to="/billing/direct">
          Direct invoice
        </Link>
        <Link className="small" to="/batches?kind=BILLING">
          Logs
        </Link>
      </div>
      <BatchLog batch={each.data} onClose={each.reset} />
    </>
  );
}
