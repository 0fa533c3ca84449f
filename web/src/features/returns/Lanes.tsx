import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, orDash, Words } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { SelectAll, SelectOne, useSelection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, tellProblem, Waiting } from '../../shared/ui';
import { PrintButton } from '../paper';
import { returnsQuery, type ReturnLane } from './api';

export type Lane = { lane: ReturnLane | undefined; title: string; none: string };

/** Returns that wait for something, with how long they have. */
export function Lanes({ of: { lane, title, none } }: { of: Lane }) {
  const { may, reads } = useSession();
  const priced = reads('SELLING');
  const navigate = useGo();
  const query = useInfiniteQuery(returnsQuery(lane));
  const rows = query.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(
    rows,
    (row) => row.number,
    (row) => navigate(`/returns/return/${row.number}`),
  );
  const chosen = selection.chosen.map((row) => row.number);
  const remind = useMutation({
    mutationFn: () => answer(client.POST('/api/batches/return-reminders', { body: { returns: chosen }, ...once() })),
    onSuccess: (batch) => navigate(`/batches/${batch.id}`),
    onError: tellProblem,
  });
  if (!query.data) return <Waiting query={query} />;
  const reminding = lane === 'EXPECTED' || lane === 'AHEAD';
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>{title}</h1>
          <Link className="button" to="/returns/new">
            Authorise a return
          </Link>
        </div>
        {rows.length === 0 && <Empty>{none}</Empty>}
        {rows.length > 0 && (
          <table className="rows">
            <caption className="unseen">Returns</caption>
            <thead>
              <tr>
                <SelectAll selection={selection} />
                <th>Return</th>
                <th>Customer</th>
                <th>Reason</th>
                <th>Authorised</th>
                <th>Received</th>
                {lane === undefined && <th>State</th>}
                {reminding && <th>Last reminder</th>}
                {lane !== undefined && <th className="num">Waits, days</th>}
                {priced && lane !== 'AHEAD' && <th className="num">To credit, net {currency()}</th>}
                {priced && (lane === 'AHEAD' || lane === 'EXPECTED') && (
                  <th className="num">Credited ahead, net {currency()}</th>
                )}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, index) => (
                <tr key={row.number} className={index === selection.at ? 'at' : ''}>
                  <SelectOne selection={selection} row={row} name={row.number} />
                  <td>
                    <Doc kind="RETURN" number={row.number} />
                  </td>
                  <td>{row.customerName}</td>
                  <td>{row.reasonWords}</td>
                  <td className="nowrap">{date(row.on)}</td>
                  <td className="nowrap">{date(row.receivedOn)}</td>
                  {lane === undefined && <td className="nowrap">{Words(row.state)}</td>}
                  {reminding && (
                    <td className="nowrap">
                      {row.remindedOn
                        ? `${date(row.remindedOn)}${row.reminders > 1 ? `, the ${row.reminders}.` : ''}`
                        : '–'}
                    </td>
                  )}
                  {lane !== undefined && <td className="num">{row.days}</td>}
                  {priced && lane !== 'AHEAD' && <td className="num">{orDash(row.creditDue)}</td>}
                  {priced && (lane === 'AHEAD' || lane === 'EXPECTED') && (
                    <td className="num">{lane === 'AHEAD' ? figure(row.creditedAhead) : orDash(row.creditedAhead)}</td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <More query={query} />
      </div>
      <div className="bar">
        {reminding && may('PROPOSE') && (
          <button className="button" disabled={chosen.length === 0 || remind.isPending} onClick={() => remind.mutate()}>
            {`Remind ${chosen.length || ''} selected`}
          </button>
        )}
        <PrintButton paper="RETURN_SLIP" numbers={chosen}>
          {`Print ${chosen.length || ''} slips`}
        </PrintButton>
        <span className="muted small">
          <kbd>X</kbd> selects · <kbd>↵</kbd> opens
          {may('MOVE_GOODS') ? ' · scan a slip’s barcode into Find to open its return' : ''}
        </span>
      </div>
    </>
  );
}
