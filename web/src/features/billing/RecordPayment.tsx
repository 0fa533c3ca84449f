import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, trim } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, ProblemNote, ReasonInput, tell } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook } from '../masterdata';
import { openInvoicesQuery } from './api';

/** A payment or customer credit, set against open invoices. */
export function RecordPayment() {
  const { may, today } = useSession();
  const asked = new URLSearchParams(window.location.search).get('customer') ?? '';
  const [customer, setCustomer] = useState({ code: asked, name: asked });
  const [amount, setAmount] = useState('');
  const [allocated, setAllocated] = useState<Record<string, string>>({});
  const [discounted, setDiscounted] = useState<Record<string, boolean>>({});
  const [reason, setReason] = useState('');
  useUnsaved(amount !== '' || Object.values(allocated).some((one) => one !== ''));
  const invoices = useInfiniteQuery({ ...openInvoicesQuery(customer.code), enabled: customer.code !== '' });
  const credit = useQuery({
    queryKey: keyOf('billing', 'credit', customer.code),
    queryFn: () => answer(client.GET('/api/customers/{code}/credit', { params: { path: { code: customer.code } } })),
    enabled: customer.code !== '',
  });
  const rows = invoices.data?.pages.flatMap((page) => page.rows) ?? [];
  const allocate = Object.entries(allocated)
    .filter(([, value]) => !isZero(value))
    .map(([invoice, value]) =>
      discounted[invoice] ? { invoice, amount: value, discount: true } : { invoice, amount: value },
    );
  const clear = () => {
    setAmount('');
    setAllocated({});
    setDiscounted({});
    setReason('');
  };
  const late = rows.some((row) => discounted[row.number] && row.earlyPayment != null && row.earlyPayment.until < today);
  const given = { customer: customer.code, allocate, ...(late && reason.trim() ? { reason: reason.trim() } : {}) };
  const pay = useMutation({
    mutationFn: () => answer(client.POST('/api/payments', { body: { ...given, amount }, ...once() })),
    onSuccess: (payment) => {
      tell(
        `Payment ${payment.number}: ${currency()} ${figure(payment.amount)}, ${isZero(payment.left) ? 'all allocated' : `${currency()} ${figure(payment.left)} on account`}.`,
      );
      clear();
    },
  });
  const use = useMutation({
    mutationFn: () => answer(client.POST('/api/credit-allocations', { body: given, ...once() })),
    onSuccess: (left) => {
      tell(`Customer credit allocated; ${currency()} ${figure(left.credit)} left.`);
      clear();
    },
  });
  const set = (invoice: string, to: string, discount: boolean) => {
    setAllocated({ ...allocated, [invoice]: to });
    setDiscounted({ ...discounted, [invoice]: discount });
  };
  const money = (text: string, set: (to: string) => void, label: string, id?: string) => (
    <FigureInput id={id} label={label} value={text} onChange={set} />
  );
  const name = customer.name === customer.code ? (rows[0]?.customerName ?? customer.name) : customer.name;
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="fields columns-2fr-1fr-1fr">
          <Field of="payment-customer" label="From">
            <CustomerLook
              id="payment-customer"
              label="Customer"
              shown={name}
              onTake={(hit) => {
                setCustomer({ code: hit.code, name: hit.name });
                setAllocated({});
                setDiscounted({});
              }}
            />
          </Field>
          <Field of="payment-amount" label={`Amount received ${currency()}`}>
            {money(amount, setAmount, 'Amount received', 'payment-amount')}
          </Field>
          <Field of="payment-credit" label={`Customer credit ${currency()}`}>
            <output id="payment-credit" className="inset-6px-2px">
              {credit.data ? orDash(credit.data.credit) : '–'}
            </output>
          </Field>
        </div>
        {customer.code !== '' && (
          <Table
            caption="Open invoices"
            of={rows}
            keyOf={(row) => row.number}
            columns={[
              {
                head: 'Invoice',
                cell: (row) => (
                  <>
                    <Doc kind="INVOICE" number={row.number} />
                    {row.disputed && <span className="muted small"> disputed</span>}
                  </>
                ),
              },
              { head: 'Date', cell: (row) => date(row.on) },
              { head: 'Due', cell: (row) => date(row.dueOn) },
              { head: <>Open {currency()}</>, num: true, cell: (row) => figure(row.open) },
              {
                head: <>Allocate {currency()}</>,
                width: 'num wide-130',
                cell: (row) =>
                  money(allocated[row.number] ?? '', (to) => set(row.number, to, false), `Allocate to ${row.number}`),
              },
              {
                className: 'nowrap',
                cell: (row) => (
                  <>
                    <button className="plain" onClick={() => set(row.number, row.open, false)}>
                      all
                    </button>
                    <Early
                      invoice={row}
                      today={today}
                      taken={discounted[row.number] ?? false}
                      onTake={(due) => set(row.number, due, true)}
                    />
                  </>
                ),
              },
            ]}
          />
        )}
        {late && (
          <Field of="late-discount" label="Why the discount is granted after its days" className="around-12px-0">
            <ReasonInput id="late-discount" value={reason} onChange={setReason} />
          </Field>
        )}
        {customer.code !== '' && invoices.data && rows.length === 0 && (
          <Empty>This customer has no open invoice. A payment stays on account.</Empty>
        )}
        {customer.code === '' && <Empty>Choose the customer.</Empty>}
        <ProblemNote problem={pay.error ?? use.error} />
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!may('BILL') || !customer.code || isZero(amount) || pay.isPending}
          onClick={() => pay.mutate()}
        >
          Record the payment
        </button>
        <button
          className="button"
          disabled={
            !may('BILL') ||
            !customer.code ||
            !isZero(amount) ||
            allocate.length === 0 ||
            isZero(credit.data?.credit) ||
            use.isPending
          }
          onClick={() => use.mutate()}
        >
          Use customer credit
        </button>
        <span className="muted small">The amount not allocated stays on account.</span>
      </div>
    </>
  );
}

/** What settles an invoice with its discount for paying early; said too where it is what was allocated. */
function Early({
  invoice,
  today,
  taken,
  onTake,
}: {
  invoice: Schemas['InvoiceRow'];
  today: string;
  taken: boolean;
  onTake: (due: string) => void;
}) {
  const early = invoice.earlyPayment;
  if (!early) return null;
  return (
    <>
      {' · '}
      <button
        className="plain"
        aria-pressed={taken}
        aria-label={`${invoice.number} less its discount`}
        onClick={() => onTake(early.due)}
      >
        less {trim(early.percent)} %
      </button>
      <span className="muted small">
        {' '}
        {taken && `discount ${figure(early.discount)} · `}
        {early.until < today ? `over since ${date(early.until)}` : `until ${date(early.until)}`}
      </span>
    </>
  );
}
