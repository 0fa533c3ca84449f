import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { ProblemNote, ReasonDialog, tell, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { useUnsaved } from '../../shared/unsaved';
import { TakeBackBar } from '../unwind';
import { BillingTabs } from './BillingTabs';
import { WaysOut } from './WaysOut';
import { paymentQuery } from './api';

const TAKEN_BACK = { kind: 'PAYMENT', intent: 'take-back-payment', one: 'payment', many: 'payments' } as const;

/** Payments, and the credit of deposits and credit notes that is settled like them. */
export function Payments() {
  return (
    <DataList
      name="payments"
      top={<BillingTabs />}
      place={(row) => `/billing/payment/${row.opens}`}
      className={(row) => (textIn(row, 'reversed') === 'YES' ? 'dropped' : '')}
      cell={(column, row) => (column === 'left' ? orDash(textIn(row, 'left')) : undefined)}
      selectable={(row) => row.kind === 'PAYMENT'}
      selected={(chosen, on) => <TakeBackBar of={TAKEN_BACK} chosen={chosen} {...on} />}
    />
  );
}

/** A payment, what it settled, and how it is undone. */
export function PaymentPage() {
  const { number = '' } = useParams();
  const { may } = useSession();
  const query = useQuery(paymentQuery(number));
  const [asking, setAsking] = useState<'reversal' | 'refund' | null>(null);
  const [off, setOff] = useState<Record<string, string>>({});
  useUnsaved(Object.values(off).some((one) => one !== ''));
  const payment = query.data;
  const done = () => {
    setAsking(null);
    setOff({});
  };
  const path = { params: { path: { number } } };
  const version = payment?.version ?? 0;
  const reverse = useMutation({
    mutationFn: (reason: string) =>
      answer(client.POST('/api/payments/{number}/reversal', { ...path, body: { version, reason }, ...once() })),
    onSuccess: () => {
      tell(`Payment ${number} is reversed; the invoices it settled are open again.`);
      done();
    },
  });
  const refund = useMutation({
    mutationFn: (reason: string) =>
      answer(client.POST('/api/refunds', { body: { of: number, version, reason }, ...once() })),
    onSuccess: (given) => {
      tell(`${currency()} ${figure(given.amount)} refunded as ${given.number}.`);
      done();
    },
  });
  const allocate = Object.entries(off)
    .filter(([, amount]) => !isZero(amount))
    .map(([invoice, amount]) => ({ invoice, amount }));
  const takeOff = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/payments/{number}/unallocations', { ...path, body: { version, allocate }, ...once() })),
    onSuccess: (now) => {
      tell(`Unallocated; ${currency()} ${figure(now.left)} are customer credit.`);
      done();
    },
  });
  if (!payment) return <Waiting query={query} />;
  const mayBill = may('BILL') && !payment.reversed;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            {payment.kind === 'DEPOSIT'
              ? 'Credit of deposit'
              : payment.kind === 'CREDIT_NOTE'
                ? 'Credit of credit note'
                : 'Payment'}{' '}
            <span className="mono">{payment.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(payment.customer)}`}>{payment.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind={payment.kind} number={payment.number} />
          </span>
        </div>
        <p className="situation">
          {currency()} {figure(payment.amount)} {payment.kind === 'DEPOSIT' ? 'became customer credit' : 'received'} on{' '}
          {date(payment.on)}
          {payment.reversed
            ? '; reversed.'
            : isZero(payment.left)
              ? '.'
              : `; ${currency()} ${figure(payment.left)} are on account.`}
          {!isZero(payment.refunded) && ` ${currency()} ${figure(payment.refunded)} refunded.`}
        </p>
        {payment.reference && <p className="muted">Reference: {payment.reference}</p>}
        {payment.allocations.length > 0 && (
          <Table
            caption="Allocations"
            of={payment.allocations}
            keyOf={(one) => one.invoice}
            className="up-to-620"
            columns={[
              {
                head: 'Allocated to invoice',
                cell: (one) => (
                  <Link className="mono" to={`/billing/invoice/${one.invoice}`}>
                    {one.invoice}
                  </Link>
                ),
              },
              {
                head: <>Amount {currency()}</>,
                num: true,
                cell: (one) => (
                  <>
                    {figure(one.amount)}
                    {one.discount && <div className="muted small nowrap">and {figure(one.discount)} discount</div>}
                  </>
                ),
              },
              mayBill && {
                head: <>Unallocate {currency()}</>,
                width: 'num wide-140',
                cell: (one) => (
                  <FigureInput
                    label={`Unallocate ${one.invoice}`}
                    value={off[one.invoice] ?? ''}
                    onChange={(to) => setOff({ ...off, [one.invoice]: to })}
                  />
                ),
              },
              mayBill && {
                cell: (one) => (
                  <button className="plain" onClick={() => setOff({ ...off, [one.invoice]: one.amount })}>
                    all
                  </button>
                ),
              },
            ]}
          />
        )}
        <ProblemNote problem={takeOff.error} />
      </div>
      {mayBill && (
        <div className="bar">
          <button
            className="button"
            disabled={allocate.length === 0 || takeOff.isPending}
            onClick={() => takeOff.mutate()}
          >
            Unallocate
          </button>
          <button className="button" disabled={isZero(payment.left)} onClick={() => setAsking('refund')}>
            Refund the amount on account
          </button>
          {payment.kind === 'PAYMENT' && (
            <button className="button" onClick={() => setAsking('reversal')}>
              Bounced
            </button>
          )}
          <span className="gap" />
          <Link className="small" to={`/ledger/journal?document=${payment.number}`}>
            Entries
          </Link>
        </div>
      )}
      {asking === 'reversal' && (
        <ReasonDialog
          title={`Payment ${number} bounced`}
          action="Reverse"
          busy={reverse.isPending}
          problem={reverse.error}
          onClose={done}
          onGiven={reverse.mutate}
        >
          All entries are reversed, and the invoices it settled are open again.
        </ReasonDialog>
      )}
      {asking === 'refund' && (
        <ReasonDialog
          title={`Refund ${currency()} ${figure(payment.left)}`}
          action="Refund"
          busy={refund.isPending}
          problem={refund.error}
          onClose={done}
          onGiven={refund.mutate}
        >
          The whole amount on account leaves the bank.
        </ReasonDialog>
      )}
    </div>
  );
}
