import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, Waiting } from '../../shared/ui';
import { BroughtForward, Days } from '../ledger';
import { MailButton, PrintButton } from '../paper';

const monthsBefore = (day: string, months: number) => {
  const at = new Date(`${day}T00:00:00Z`);
  at.setUTCMonth(at.getUTCMonth() - months);
  return at.toISOString().slice(0, 10);
};

/** What the customer owes at a day, and how it came to that. */
export function Statement({ code }: { code: string }) {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const to = search.get('to') ?? today;
  const from = search.get('from') ?? monthsBefore(to, 3);
  const query = useQuery({
    queryKey: keyOf('customer', code, 'statement', from, to),
    queryFn: () =>
      answer(client.GET('/api/customers/{code}/statement', { params: { path: { code }, query: { from, to } } })),
  });
  const statement = query.data;
  const number = `${code}|${from}|${to}`;
  return (
    <>
      <div className="row gap-20 aligned-baseline around-4px-0-8px">
        <span className="muted">
          <Days from={from} to={to} onChange={(changed) => setSearch(changed, { replace: true })} />
        </span>
        <span className="grows-1" />
        <PrintButton plain paper="STATEMENT" numbers={[number]}>
          Print
        </PrintButton>
        <MailButton plain paper="STATEMENT" number={number} />
      </div>
      {!statement && <Waiting query={query} />}
      {statement && (
        <>
          <p className="situation">
            On {date(to)}{' '}
            {isZero(statement.closing)
              ? 'no balance'
              : statement.closing.startsWith('-')
                ? `${currency()} ${figure(statement.closing.slice(1))} customer credit`
                : `${currency()} ${figure(statement.closing)} owed`}
            {!isZero(statement.unapplied) &&
              `: ${figure(statement.open)} on invoices, less ${figure(statement.unapplied)} deposits and credit`}
            .
          </p>
          <table className="rows">
            <caption className="unseen">Statement of account</caption>
            <thead>
              <tr>
                <th>Date</th>
                <th>Document</th>
                <th>What</th>
                <th className="num">Debit {currency()}</th>
                <th className="num">Credit {currency()}</th>
                <th className="num">Balance {currency()}</th>
              </tr>
            </thead>
            <tbody>
              <BroughtForward on={from} columns={6} balance={statement.opening} />
              {statement.rows.map((row, index) => (
                <tr key={index}>
                  <td className="nowrap">{date(row.on)}</td>
                  <td>
                    <Doc kind={row.documentKind} number={row.documentNumber} />
                  </td>
                  <td>{row.event}</td>
                  <td className="num">{orDash(row.debit)}</td>
                  <td className="num">{orDash(row.credit)}</td>
                  <td className="num strong">{figure(row.balance)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <h2 className="above-20">Open invoices on that date</h2>
          {statement.openItems.length === 0 && <Empty>None.</Empty>}
          {statement.openItems.length > 0 && (
            <table className="rows">
              <caption className="unseen">Open invoices on that date</caption>
              <thead>
                <tr>
                  <th>Invoice</th>
                  <th>Date</th>
                  <th>Due</th>
                  <th className="num">Days late</th>
                  <th className="num">Gross {currency()}</th>
                  <th className="num">Open {currency()}</th>
                </tr>
              </thead>
              <tbody>
                {statement.openItems.map((item) => (
                  <tr key={item.invoice}>
                    <td>
                      <Link className="mono" to={`/billing/invoice/${item.invoice}`}>
                        {item.invoice}
                      </Link>
                      {!isZero(item.disputed) && <span className="muted small"> disputed {figure(item.disputed)}</span>}
                    </td>
                    <td className="nowrap">{date(item.on)}</td>
                    <td className="nowrap">{date(item.dueOn)}</td>
                    <td className={`num${item.daysLate > 0 ? ' error' : ''}`}>{item.daysLate || '–'}</td>
                    <td className="num">{figure(item.gross)}</td>
                    <td className="num strong">{figure(item.open)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      )}
    </>
  );
}
