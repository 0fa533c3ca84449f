import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, orDash } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { SelectAll, SelectOne, useSelection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, tellProblem, Waiting } from '../../shared/ui';
import { BatchLog } from '../batch';
import { overdueQuery } from './api';

const REMINDERS = ['', 'first reminder', 'second reminder', 'final reminder'];

/** Customers with invoices past due, how late, and the reminder that each is due. */
export function Overdue() {
  const { may } = useSession();
  const navigate = useGo();
  const list = useInfiniteQuery(overdueQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(
    rows,
    (row) => row.customer,
    (row) => navigate(`/customers/${encodeURIComponent(row.customer)}/statement`),
  );
  const remind = useMutation({
    mutationFn: (customers: string[]) =>
      answer(client.POST('/api/batches/reminders', { body: { customers }, ...once() })),
    onSuccess: selection.none,
    onError: tellProblem,
  });
  if (!list.data) return <Waiting query={list} />;
  const due = selection.chosen.filter((row) => row.reminder != null);
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>
            {rows.length === 0
              ? 'No overdue customers'
              : `${rows.length}${list.hasNextPage ? '+' : ''} customers have invoices past due`}
          </h1>
          <span className="muted">reminders 7, 21 and 35 days after the due date, at least ten days apart</span>
        </div>
        <table className="rows">
          <caption className="unseen">Customers with invoices past due</caption>
          <thead>
            <tr>
              <SelectAll selection={selection} />
              <th>Customer</th>
              <th className="num">Invoices</th>
              <th className="num">Oldest</th>
              <th className="num">to 30 days {currency()}</th>
              <th className="num">31 to 60</th>
              <th className="num">61 to 90</th>
              <th className="num">older</th>
              <th className="num">disputed</th>
              <th className="num">Open {currency()}</th>
              <th>Reminder due</th>
              <th>Last reminder</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.customer} className={index === selection.at ? 'at' : ''}>
                <SelectOne selection={selection} row={row} name={row.customer} />
                <td>
                  <Link to={`/customers/${encodeURIComponent(row.customer)}/statement`}>{row.customerName}</Link>
                  {!row.hasAddress && <div className="muted small">no mail address</div>}
                </td>
                <td className="num">{row.invoices}</td>
                <td className="num nowrap">{row.oldestDays} d</td>
                <td className="num">{orDash(row.upTo30)}</td>
                <td className="num">{orDash(row.upTo60)}</td>
                <td className="num">{orDash(row.upTo90)}</td>
                <td className="num">{orDash(row.older)}</td>
                <td className="num">{orDash(row.disputed)}</td>
                <td className="num strong">{figure(row.open)}</td>
                <td className="nowrap">
                  {row.reminder == null ? (
                    <span className="muted">none yet</span>
                  ) : (
                    <>
                      <Mark of={row.reminder === 3 ? 'stop' : 'caution'} />
                      {REMINDERS[row.reminder]}
                    </>
                  )}
                </td>
                <td className="nowrap">
                  {row.remindedOn
                    ? `${REMINDERS[row.lastStep]?.replace(' reminder', '')}, ${date(row.remindedOn)}`
                    : '–'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>No invoice is past due.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!may('BILL') || remind.isPending || due.length === 0}
          onClick={() => remind.mutate(due.map((row) => row.customer))}
        >
          Send {due.length || ''} {due.length === 1 ? 'reminder' : 'reminders'}
        </button>
        <span className="muted small">
          <kbd>X</kbd> selects · reminders go to the Outbox with the list of invoices attached
        </span>
        <span className="gap" />
        <Link className="small" to="/batches?kind=REMINDERS">
          Logs
        </Link>
      </div>
      <BatchLog batch={remind.data} onClose={remind.reset} />
    </>
  );
}
