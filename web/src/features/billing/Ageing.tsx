import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, orDash } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { ageingQuery } from './api';

function Aged({ of }: { of: Schemas['AgedView'] }) {
  return (
    <>
      <td className="num">{orDash(of.notDue)}</td>
      <td className="num">{orDash(of.upTo30)}</td>
      <td className="num">{orDash(of.upTo60)}</td>
      <td className="num">{orDash(of.upTo90)}</td>
      <td className="num">{orDash(of.older)}</td>
      <td className="num">{orDash(of.disputed)}</td>
      <td className="num strong">{figure(of.open)}</td>
    </>
  );
}

/** Receivables by age as of any day, customer by customer, beside what the ledger says of that day. */
export function Ageing() {
  const { today } = useSession();
  const navigate = useGo();
  const [search, setSearch] = useSearchParams();
  const on = search.get('on') ?? today;
  const list = useInfiniteQuery(ageingQuery(on));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at] = useCursor(rows, (row) =>
    navigate(`/customers/${encodeURIComponent(row.customer)}/statement?show=all&to=${on}`),
  );
  const first = list.data?.pages[0];
  if (!first) return <Waiting query={list} />;
  const agrees = first.ledger == null || first.ledger === first.total.open;
  return (
    <div className="page-scroll inset-top-0">
      <div className="page-head">
        <h1>Receivables by age</h1>
        <span className="muted nowrap">
          as of{' '}
          <DayInput
            label="As of"
            className="cell-input"
            style={{ width: 110, display: 'inline-block' }}
            value={on}
            max={today}
            onChange={(day) => setSearch({ on: day })}
          />
        </span>
      </div>
      <p className="situation">
        {currency()} {figure(first.total.open)} are open on {date(first.on)}
        {first.ledger != null && agrees && ', and so says the ledger'}
        {first.ledger != null && !agrees && (
          <>
            ; the ledger says <Mark of="stop" />
            {figure(first.ledger)}
          </>
        )}
        .
      </p>
      <table className="rows">
        <caption className="unseen">Receivables by age</caption>
        <thead>
          <tr>
            <th>Customer</th>
            <th className="num">not due {currency()}</th>
            <th className="num">1 to 30 days</th>
            <th className="num">31 to 60</th>
            <th className="num">61 to 90</th>
            <th className="num">more</th>
            <th className="num">disputed</th>
            <th className="num">Open {currency()}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr key={row.customer} className={index === at ? 'at' : ''}>
              <td>
                <Link to={`/customers/${encodeURIComponent(row.customer)}/statement?show=all&to=${on}`}>
                  {row.customerName}
                </Link>
              </td>
              <Aged of={row.aged} />
            </tr>
          ))}
        </tbody>
        {rows.length > 0 && (
          <tfoot>
            <tr>
              <th scope="row">All customers</th>
              <Aged of={first.total} />
            </tr>
          </tfoot>
        )}
      </table>
      {rows.length === 0 && <Empty>Nothing was open on that day.</Empty>}
      <More query={list} />
    </div>
  );
}
