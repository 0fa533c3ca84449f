import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, words } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { onRow } from '../../shared/rows';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, Waiting } from '../../shared/ui';
import { OrderTabs } from './OrderTabs';
import { agreementsQuery, WORDS, type Kind } from './api';

/** Quotes, blanket orders or recurring orders; or, of all of them, those of which an order is due. */
export function AgreementListPage({ kind }: { kind?: Kind }) {
  const { today } = useSession();
  const list = useInfiniteQuery(agreementsQuery(kind, !kind));
  const navigate = useGo();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at] = useCursor(rows, (row) => navigate(`/orders/agreements/${row.number}`));
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{kind ? WORDS[kind].many : 'Orders due'}</h1>
        </div>
        <OrderTabs />
        <table className="rows">
          <caption className="unseen">{kind ? WORDS[kind].many : 'Orders due'}</caption>
          <thead>
            <tr>
              <th>Number</th>
              {!kind && <th>Kind</th>}
              <th>Customer</th>
              <th>Customer PO</th>
              <th>State</th>
              <th>{kind === 'QUOTE' ? 'Valid until' : 'Until'}</th>
              {kind !== 'QUOTE' && <th>Next due</th>}
              <th className="num">Net {currency()}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr
                key={row.number}
                className={`clickable${index === at ? ' at' : ''}${row.state === 'LOST' || row.state === 'ENDED' ? ' dropped' : ''}`}
                onClick={onRow(() => navigate(`/orders/agreements/${row.number}`))}
              >
                <td>
                  <Link className="mono" to={`/orders/agreements/${row.number}`}>
                    {row.number}
                  </Link>
                </td>
                {!kind && <td>{WORDS[row.kind].one}</td>}
                <td className="breaks">{row.customerName}</td>
                <td className="mono">{row.po}</td>
                <td>{row.expired ? 'expired' : words(row.state)}</td>
                <td className="nowrap">{date(row.until)}</td>
                {kind !== 'QUOTE' && (
                  <td className="nowrap">
                    {row.due && <Mark of="caution" />}
                    {row.nextDue ? (row.nextDue === today ? 'today' : date(row.nextDue)) : '–'}
                  </td>
                )}
                <td className="num">{figure(row.net)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && (
          <Empty>{kind ? `There is no ${WORDS[kind].one} yet.` : 'No call-off or recurring order is due.'}</Empty>
        )}
        <More query={list} />
      </div>
      {kind && (
        <div className="bar">
          <Link className="button first" to={`/orders/agreements/new?kind=${kind}`}>
            New {WORDS[kind].one}
          </Link>
        </div>
      )}
    </div>
  );
}
