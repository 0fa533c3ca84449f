import { infiniteQueryOptions, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';
import { date, figure, isZero, orDash, shortDate, trim, Words } from '../../shared/format';
import { may, useSession } from '../../shared/session';
import { Doc, Empty, More, ProblemNote, Tabs, tell, tellProblem, Waiting } from '../../shared/ui';
import { LookAhead } from '../../shared/ui/LookAhead';
import { findCustomers } from '../order';
import { refreshAll } from '../review';

const toBillQuery = infiniteQueryOptions({
  queryKey: ['billing', 'to-bill'],
  queryFn: ({ pageParam }) => answer(client.GET('/api/billing/to-bill', { params: { query: { after: pageParam } } })),
  ...pages,
});
const invoicesQuery = (open: boolean, customer?: string, pastDue = false) =>
  infiniteQueryOptions({
    queryKey: ['billing', 'invoices', open, customer, pastDue],
    queryFn: ({ pageParam }) => answer(client.GET('/api/invoices', { params: { query: { open, customer, pastDue, after: pageParam } } })),
    ...pages,
  });
const paymentsQuery = infiniteQueryOptions({
  queryKey: ['billing', 'payments'],
  queryFn: ({ pageParam }) => answer(client.GET('/api/payments', { params: { query: { after: pageParam } } })),
  ...pages,
});

/** What is to be billed, what was, and the money that came in. */
export function BillingPage() {
  const { tab = 'to-bill' } = useParams();
  return (
    <div className="page">
      <div className="page-scroll" style={{ paddingBottom: 0, flex: '0 0 auto' }}>
        <Tabs
          of={[
            { to: '/billing', label: 'To bill' },
            { to: '/billing/invoices', label: 'Invoices' },
            { to: '/billing/payments', label: 'Payments' },
            { to: '/billing/receive', label: 'Money in' },
          ]}
        />
      </div>
      {tab === 'to-bill' ? <ToBill /> : tab === 'invoices' ? <Invoices /> : tab === 'payments' ? <Payments /> : <MoneyIn />}
    </div>
  );
}

/** Orders by customer; quantities can be lowered, and what is ticked goes on one invoice. */
function ToBill() {
  const { role } = useSession();
  const list = useInfiniteQuery(toBillQuery);
  const [ticked, setTicked] = useState<string[]>([]);
  const [quantities, setQuantities] = useState<Record<string, string>>({});
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const chosen = rows.filter((row) => ticked.includes(row.order));
  const customers = new Set(chosen.map((row) => row.customer));
  const bill = useMutation({
    mutationFn: (orders: Schemas['ToBillRow'][]) => {
      const changed = orders.some((row) => row.lines.some((line) => quantities[`${row.order}/${line.line}`] !== undefined));
      const lines = orders.flatMap((row) =>
        row.lines
          .map((line) => ({ order: row.order, line: line.line, quantity: quantities[`${row.order}/${line.line}`] ?? line.toBill }))
          .filter((line) => !isZero(line.quantity)),
      );
      return answer(client.POST('/api/invoices', { body: { orders: orders.map((row) => row.order), lines: changed ? lines : undefined }, ...once() }));
    },
    onSuccess: (invoice) => {
      tell(`Billed as invoice ${invoice.number}, € ${figure(invoice.gross)}.`);
      setTicked([]);
      setQuantities({});
    },
    onError: tellProblem,
    onSettled: refreshAll,
  });
  if (!list.data) return <Waiting query={list} />;
  const toggle = (order: string) => setTicked(ticked.includes(order) ? ticked.filter((o) => o !== order) : [...ticked, order]);
  return (
    <>
      <div className="page-scroll" style={{ paddingTop: 0 }}>
        <div className="page-head">
          <h1>{rows.length === 0 ? 'Nothing to bill' : `${rows.length}${list.hasNextPage ? '+' : ''} orders have something to bill`}</h1>
        </div>
        <table className="rows">
          <thead>
            <tr>
              <th style={{ width: 24 }} />
              <th>Order</th>
              <th>What has left, or was done</th>
              <th>Their PO</th>
              <th>Since</th>
              <th className="num">To bill</th>
              <th className="num">Net €</th>
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
                        {at === 0 && <input type="checkbox" aria-label={`Bill ${row.order}`} checked={ticked.includes(row.order)} onChange={() => toggle(row.order)} />}
                      </td>
                      <td>{at === 0 && <Doc kind="ORDER" number={row.order} />}</td>
                      <td>{line.description}</td>
                      <td className="mono">{at === 0 && row.po}</td>
                      <td className="nowrap">{at === 0 && shortDate(row.since)}</td>
                      <td className="num" style={{ width: 90 }}>
                        <input
                          className="cell-input num"
                          aria-label={`Quantity of ${key}`}
                          value={quantities[key] ?? trim(line.toBill).replaceAll(',', '')}
                          onChange={(event) => /^\d*\.?\d{0,3}$/.test(event.target.value) && setQuantities({ ...quantities, [key]: event.target.value })}
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
        {rows.length === 0 && <Empty>What departs, or is done, is to be billed and shows here.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!may(role, 'bill') || bill.isPending || customers.size !== 1} onClick={() => bill.mutate(chosen)}>
          Bill {chosen.length > 1 ? `${chosen.length} orders on one invoice` : 'the order'}
        </button>
        <span className="muted small">
          {customers.size > 1 ? 'One invoice takes orders of one customer.' : 'The number is given when the invoice is posted.'}
        </span>
      </div>
    </>
  );
}

function Invoices() {
  const [open, setOpen] = useState(true);
  const [search, setSearch] = useSearchParams();
  const pastDue = search.get('pastDue') === 'true';
  const { today } = useSession();
  const list = useInfiniteQuery(invoicesQuery(open, undefined, pastDue));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page-scroll" style={{ paddingTop: 0 }}>
      <div className="page-head">
        <h1>{pastDue ? 'Invoices past due' : open ? 'Invoices with something open' : 'All invoices'}</h1>
        <span>
          <label className="muted" style={{ marginRight: 16 }}>
            <input type="checkbox" checked={pastDue} onChange={(event) => setSearch(event.target.checked ? { pastDue: 'true' } : {})} /> past due only
          </label>
          <label className="muted">
            <input type="checkbox" checked={open || pastDue} disabled={pastDue} onChange={(event) => setOpen(event.target.checked)} /> open only
          </label>
        </span>
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th>Invoice</th>
            <th>Customer</th>
            <th>Date</th>
            <th>Due</th>
            <th>State</th>
            <th className="num">Gross €</th>
            <th className="num">Open €</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.number}>
              <td>
                <Doc kind="INVOICE" number={row.number} />
              </td>
              <td>{row.customerName}</td>
              <td className="nowrap">{date(row.on)}</td>
              <td className={`nowrap${!isZero(row.open) && row.dueOn < today ? ' error' : ''}`}>{date(row.dueOn)}</td>
              <td>{Words(row.state)}</td>
              <td className="num">{figure(row.gross)}</td>
              <td className="num">{orDash(row.open)}</td>
              <td>{!isZero(row.open) && <Link to={`/billing/receive?customer=${encodeURIComponent(row.customer)}`}>Money in</Link>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>No invoice is open.</Empty>}
      <More query={list} />
    </div>
  );
}

function Payments() {
  const list = useInfiniteQuery(paymentsQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page-scroll" style={{ paddingTop: 0 }}>
      <table className="rows">
        <thead>
          <tr>
            <th>Payment</th>
            <th>Customer</th>
            <th>Received</th>
            <th className="num">Amount €</th>
            <th className="num">On account €</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.number}>
              <td>
                <Doc kind="PAYMENT" number={row.number} />
              </td>
              <td>{row.customerName}</td>
              <td className="nowrap">{date(row.on)}</td>
              <td className="num">{figure(row.amount)}</td>
              <td className="num">{orDash(row.left)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>No money has come in yet.</Empty>}
      <More query={list} />
    </div>
  );
}

/** A payment or customer credit, set against open invoices. */
function MoneyIn() {
  const { role } = useSession();
  const asked = new URLSearchParams(window.location.search).get('customer') ?? '';
  const [customer, setCustomer] = useState({ code: asked, name: asked });
  const [amount, setAmount] = useState('');
  const [allocated, setAllocated] = useState<Record<string, string>>({});
  const invoices = useInfiniteQuery({ ...invoicesQuery(true, customer.code), enabled: customer.code !== '' });
  const credit = useQuery({
    queryKey: ['billing', 'credit', customer.code],
    queryFn: () => answer(client.GET('/api/customers/{code}/credit', { params: { path: { code: customer.code } } })),
    enabled: customer.code !== '',
  });
  const rows = invoices.data?.pages.flatMap((page) => page.rows) ?? [];
  const allocate = Object.entries(allocated)
    .filter(([, value]) => !isZero(value))
    .map(([invoice, value]) => ({ invoice, amount: value }));
  const clear = () => {
    setAmount('');
    setAllocated({});
  };
  const pay = useMutation({
    mutationFn: () => answer(client.POST('/api/payments', { body: { customer: customer.code, amount, allocate }, ...once() })),
    onSuccess: (payment) => {
      tell(`Payment ${payment.number}: € ${figure(payment.amount)}, ${isZero(payment.left) ? 'all allocated' : `€ ${figure(payment.left)} on account`}.`);
      clear();
    },
    onSettled: refreshAll,
  });
  const use = useMutation({
    mutationFn: () => answer(client.POST('/api/credit-allocations', { body: { customer: customer.code, allocate }, ...once() })),
    onSuccess: (left) => {
      tell(`Customer credit allocated; € ${figure(left.credit)} are left.`);
      clear();
    },
    onSettled: refreshAll,
  });
  const money = (text: string, set: (to: string) => void, label: string) => (
    <input
      className="cell-input num"
      style={{ borderBottomColor: 'var(--rule-strong)' }}
      aria-label={label}
      inputMode="decimal"
      value={text}
      onChange={(event) => /^\d*\.?\d{0,2}$/.test(event.target.value) && set(event.target.value)}
    />
  );
  const name = customer.name === customer.code ? (rows[0]?.customerName ?? customer.name) : customer.name;
  return (
    <>
      <div className="page-scroll" style={{ paddingTop: 0 }}>
        <div className="fields" style={{ gridTemplateColumns: '2fr 1fr 1fr' }}>
          <div className="field">
            <label>From</label>
            <LookAhead
              name="customers"
              label="Customer"
              placeholder="name, town or code"
              load={findCustomers}
              shown={name}
              keyOf={(hit) => hit.code}
              row={(hit) => (
                <>
                  <span className="mono">{hit.code}</span>
                  <span>{hit.name}</span>
                  <span className="muted">{hit.town}</span>
                </>
              )}
              onTake={(hit) => {
                setCustomer({ code: hit.code, name: hit.name });
                setAllocated({});
              }}
            />
          </div>
          <div className="field">
            <label>Amount received €</label>
            {money(amount, setAmount, 'Amount received')}
          </div>
          <div className="field">
            <label>Customer credit €</label>
            <div style={{ padding: '6px 2px' }}>{credit.data ? orDash(credit.data.credit) : '–'}</div>
          </div>
        </div>
        {customer.code !== '' && (
          <table className="rows">
            <thead>
              <tr>
                <th>Invoice</th>
                <th>Date</th>
                <th>Due</th>
                <th className="num">Open €</th>
                <th className="num" style={{ width: 130 }}>
                  Set against it €
                </th>
                <th />
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.number}>
                  <td>
                    <Doc kind="INVOICE" number={row.number} />
                  </td>
                  <td>{date(row.on)}</td>
                  <td>{date(row.dueOn)}</td>
                  <td className="num">{figure(row.open)}</td>
                  <td>{money(allocated[row.number] ?? '', (to) => setAllocated({ ...allocated, [row.number]: to }), `Against ${row.number}`)}</td>
                  <td>
                    <button className="plain" onClick={() => setAllocated({ ...allocated, [row.number]: row.open })}>
                      all of it
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {customer.code !== '' && invoices.data && rows.length === 0 && <Empty>This customer has no open invoice; a payment stays on account.</Empty>}
        {customer.code === '' && <Empty>Say who the money is from.</Empty>}
        <ProblemNote problem={pay.error ?? use.error} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!may(role, 'bill') || !customer.code || isZero(amount) || pay.isPending} onClick={() => pay.mutate()}>
          Book the payment
        </button>
        <button
          className="button"
          disabled={!may(role, 'bill') || !customer.code || !isZero(amount) || allocate.length === 0 || isZero(credit.data?.credit) || use.isPending}
          onClick={() => use.mutate()}
        >
          Use customer credit
        </button>
        <span className="muted small">What is not set against an invoice stays on account.</span>
      </div>
    </>
  );
}
