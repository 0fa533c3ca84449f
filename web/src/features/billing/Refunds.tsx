import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { answer, client, once, type Problem, type Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { Doc, More, tellProblem } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { TakeBackBar } from '../unwind';
import { BillingTabs } from './BillingTabs';
import { wishedBackQuery, payoutsQuery } from './api';

const PAYOUT: Record<string, string> = {
  WAITING: 'to be sent',
  SENDING: 'sent',
  PAID: 'paid out',
  DECLINED: 'declined',
  UNANSWERED: 'no answer',
};

const TAKEN_BACK = { kind: 'REFUND', intent: 'take-back-refund', one: 'refund', many: 'refunds' } as const;

/** Money that is to go back, that is sent, and all that went. */
export function Refunds() {
  const { may } = useSession();
  const payouts = useInfiniteQuery(payoutsQuery);
  const wished = useInfiniteQuery(wishedBackQuery);
  const act = useMutation<unknown, Problem, { payout: Schemas['PayoutView']; what: 'ask' | 'close' }>({
    mutationFn: ({ payout, what }) => {
      const given = { params: { path: { refund: payout.refund } }, body: { version: payout.version }, ...once() };
      return what === 'ask'
        ? answer(client.POST('/api/payouts/{refund}/askings', given))
        : answer(client.POST('/api/payouts/{refund}/closings', given));
    },
    onError: tellProblem,
  });
  const open = payouts.data?.pages.flatMap((page) => page.rows) ?? [];
  const todo = wished.data?.pages.flatMap((page) => page.rows) ?? [];
  const top = (
    <>
      <BillingTabs />
      <div className={todo.length + open.length > 0 ? 'below-20' : undefined}>
        {todo.length > 0 && (
          <>
            <h2 className="part">Refunds to send</h2>
            <Table
              caption="Refunds to send"
              of={todo}
              keyOf={(row) => row.number}
              isUnheaded
              columns={[
                { cell: (row) => <Doc kind="CREDIT_NOTE" number={row.number} /> },
                { cell: (row) => row.customerName },
                { className: 'nowrap', cell: (row) => <>credited on {date(row.on)}</> },
                { cell: (row) => row.reason },
                { num: true, cell: (row) => figure(row.left) },
              ]}
            />
            <More query={wished} />
          </>
        )}
        {open.length > 0 && (
          <>
            <h2 className="part" style={{ marginTop: todo.length > 0 ? 24 : 0 }}>
              At the payment service
            </h2>
            <Table
              caption="At the payment service"
              of={open}
              keyOf={(row) => row.refund}
              columns={[
                { head: 'Refund', cell: (row) => <Doc kind="REFUND" number={row.refund} /> },
                { head: 'Customer', cell: (row) => row.customerName },
                { head: 'Of', cell: (row) => <Doc kind={row.sourceKind} number={row.source} /> },
                { head: 'On', className: 'nowrap', cell: (row) => date(row.on) },
                {
                  head: 'State',
                  className: (row) => (row.state === 'DECLINED' || row.state === 'UNANSWERED' ? 'error' : ''),
                  cell: (row) => (
                    <>
                      {PAYOUT[row.state]}
                      {row.state === 'DECLINED' && '; the money is customer credit again'}
                      {row.state === 'UNANSWERED' && '; payment not confirmed'}
                    </>
                  ),
                },
                { head: <>Amount {currency()}</>, num: true, cell: (row) => figure(row.amount) },
                {
                  className: 'nowrap',
                  cell: (row) => (
                    <>
                      {may('BILL') && row.state === 'UNANSWERED' && (
                        <button
                          className="button"
                          disabled={act.isPending}
                          onClick={() => act.mutate({ payout: row, what: 'ask' })}
                        >
                          Ask again
                        </button>
                      )}
                      {may('BILL') && row.state === 'DECLINED' && (
                        <button
                          className="button"
                          disabled={act.isPending}
                          onClick={() => act.mutate({ payout: row, what: 'close' })}
                        >
                          Keep as credit
                        </button>
                      )}
                    </>
                  ),
                },
              ]}
            />
            <p className="muted small">Asking again never pays twice: the service knows each refund by its number.</p>
            <More query={payouts} />
          </>
        )}
      </div>
    </>
  );
  return (
    <DataList
      name="refunds"
      top={top}
      className={(row) => (textIn(row, 'reversedOn') === '' ? '' : 'dropped')}
      cell={(column, row) => (column === 'payout' ? (PAYOUT[textIn(row, 'payout')] ?? 'manual') : undefined)}
      selected={(chosen, on) => <TakeBackBar of={TAKEN_BACK} chosen={chosen} {...on} />}
    />
  );
}
