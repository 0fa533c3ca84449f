import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Problem } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, isZero, trim } from '../../shared/format';
import { useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Choice } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { MailButton, PrintButton } from '../paper';
import { type Sheet } from '../review';
import { depositsQuery } from './api';

/** What was requested and deposited for an order, billing ahead of its goods, and its confirmation on paper. */
export function OrderMoney({ sheet }: { sheet: Sheet }) {
  const { may } = useSession();
  const { order } = sheet;
  const asked = useQuery({
    queryKey: keyOf('deposit-request', order.number),
    queryFn: async () => {
      try {
        return await answer(
          client.GET('/api/orders/{number}/deposit-request', { params: { path: { number: order.number } } }),
        );
      } catch (problem) {
        if ((problem as Problem).code === 'not-found') return null;
        throw problem;
      }
    },
  });
  const deposits = useInfiniteQuery(depositsQuery(order.number)).data?.pages.flatMap((page) => page.rows) ?? [];
  const [amount, setAmount] = useState('');
  const [percent, setPercent] = useState(false);
  useUnsaved(amount !== '');
  const ask = useMutation({
    mutationFn: () =>
      answer(
        client.PUT('/api/orders/{number}/deposit-request', {
          params: { path: { number: order.number } },
          body: percent ? { percent: amount } : { amount },
          ...once(),
        }),
      ),
    onSuccess: (request) => {
      tell(`A deposit of ${currency()} ${figure(request.amount)} requested.`);
      setAmount('');
    },
  });
  const receive = useMutation({
    mutationFn: () => answer(client.POST('/api/deposits', { body: { order: order.number, amount }, ...once() })),
    onSuccess: (deposit) => {
      tell(`Deposit ${deposit.number} recorded.`);
      setAmount('');
    },
  });
  const ahead = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/invoices', { body: { orders: [order.number], ahead: true }, ...once() })),
    onSuccess: (invoice) => tell(`Billed ahead as invoice ${invoice.number}, ${currency()} ${figure(invoice.gross)}.`),
  });
  const live = ['HELD', 'AWAITING_APPROVAL', 'CLEARED'].includes(order.state);
  const toLeave = order.state === 'CLEARED' && sheet.flows.some((flow) => !isZero(flow.toShip));
  return (
    <section className="below-20">
      <h2>Deposits</h2>
      {asked.data && (
        <div>
          {currency()} {figure(asked.data.amount)} requested
          {asked.data.percent != null && ` (${trim(asked.data.percent)} %)`} on {date(asked.data.askedOn)}
          {isZero(asked.data.missing)
            ? ', received in full.'
            : `, ${currency()} ${figure(asked.data.missing)} not received yet.`}
        </div>
      )}
      {deposits.map((deposit) => (
        <div className="pair" key={deposit.number}>
          <Link className="mono" to={`/billing/deposit/${deposit.number}`}>
            {deposit.number}
          </Link>
          <span>
            {figure(deposit.amount)}
            <span className="muted">
              {' '}
              {isZero(deposit.unapplied) ? 'applied' : `${figure(deposit.unapplied)} unapplied`}
            </span>
          </span>
        </div>
      ))}
      {!asked.data && deposits.length === 0 && <div className="muted">No deposit requested or received.</div>}
      {live && (
        <div className="row gap-8 aligned-center above-6">
          <div className="wide-84">
            <FigureInput label="Amount of the deposit" value={amount} onChange={setAmount} />
          </div>
          <Choice
            className="bare small"
            aria-label="Amount or percentage"
            value={percent ? '%' : currency()}
            onChange={(to) => setPercent(to === '%')}
          >
            <option value={currency()}>{currency()}</option>
            <option value="%">% of gross</option>
          </Choice>
          <button className="plain small" disabled={!amount || ask.isPending} onClick={() => ask.mutate()}>
            Request
          </button>
          {may('BILL') && (
            <button
              className="plain small"
              disabled={!amount || percent || receive.isPending}
              onClick={() => receive.mutate()}
            >
              received
            </button>
          )}
        </div>
      )}
      <ProblemNote problem={ask.error ?? receive.error} />
      <div className="small" style={{ display: 'flex', gap: 14, marginTop: 10, flexWrap: 'wrap' }}>
        <PrintButton plain paper="ORDER_CONFIRMATION" numbers={[order.number]}>
          Print confirmation
        </PrintButton>
        <MailButton plain paper="ORDER_CONFIRMATION" number={order.number} />
        {toLeave && may('BILL') && (
          <button className="plain" disabled={ahead.isPending} onClick={() => ahead.mutate()}>
            Bill ahead of dispatch
          </button>
        )}
      </div>
      <ProblemNote problem={ahead.error} />
    </section>
  );
}
