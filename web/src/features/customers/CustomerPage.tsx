import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, Words } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Empty, Mark, More, OfTab, SearchLine, Tabs, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { Position } from '../review';
import { OwnApprovalRules } from '../rules';
import { CustomerTerms } from './CustomerTerms';
import { Statement } from './Statement';
import { customerQuery, positionQuery, posQuery, type CustomerSheet } from './api';

/** A customer: where it stands, its orders, invoices and PO numbers, what was decided on it, what is agreed with it. */
export function CustomerPage() {
  const { may, reads } = useSession();
  const business = reads('SELLING');
  const { code = '', tab = business ? 'statement' : 'terms' } = useParams();
  const query = useQuery(customerQuery(code));
  const position = useQuery({ ...positionQuery(code), enabled: business });
  const navigate = useGo();
  const customer = query.data;
  if (!customer) return <Waiting query={query} />;
  const to = (name: string) => `/customers/${encodeURIComponent(code)}/${name}`;
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1 className="breaks">{customer.name}</h1>
            <span className="muted nowrap">
              <span className="mono">{customer.code}</span> · {customer.town}
            </span>
          </div>
          <p className="situation">
            {customer.blocked && (
              <>
                <Mark of="stop" />
                Blocked since {date(customer.blockedOn)} by {customer.blockedBy}: {customer.blocked}.{' '}
              </>
            )}
            {position.data &&
              (customer.limit == null
                ? `Exposure ${currency()} ${figure(position.data.exposure)}, without a limit`
                : `Exposure ${currency()} ${figure(position.data.exposure)} of a limit of ${figure(customer.limit)}`)}
            {business && isZero(customer.pastDue)
              ? '; nothing past due.'
              : business && `; ${figure(customer.pastDue)} past due.`}
          </p>
          <Tabs
            of={[
              ...(business
                ? [
                    { to: `/customers/${encodeURIComponent(code)}`, label: 'Statement' },
                    { to: to('po-numbers'), label: 'PO numbers' },
                    { to: to('decisions'), label: 'Decisions' },
                  ]
                : []),
              { to: business ? to('terms') : `/customers/${encodeURIComponent(code)}`, label: 'Terms' },
              { to: to('approval'), label: 'Approval' },
            ]}
          />
          <OfTab
            tab={tab}
            of={{
              statement: <Statement code={code} />,
              'po-numbers': <PoNumbers code={code} />,
              decisions: <Decisions customer={customer} />,
              approval: <OwnApprovalRules code={code} locked={!may('KEEP_MASTER_DATA')} />,
              terms: <CustomerTerms customer={customer} />,
            }}
          />
        </div>
        {business && (
          <div className="bar">
            <button
              className="button first"
              onClick={() => navigate(`/orders/new?customer=${encodeURIComponent(code)}`)}
            >
              New order
            </button>
            <Link className="button" to={`/billing/receive?customer=${encodeURIComponent(code)}`}>
              Record a payment
            </Link>
            <Link className="button" to={`/returns/new?customer=${encodeURIComponent(code)}`}>
              Authorise a return
            </Link>
          </div>
        )}
      </div>
      <aside>
        {position.data && <Position name="Position now" position={position.data} call={customer.call} />}
        {business && <ItsLists code={code} />}
        <section className="above-20">
          <h2>Licences</h2>
          {customer.licences.length === 0 && <div className="muted">None.</div>}
          {customer.licences.map((licence) => (
            <div className="pair" key={licence.licenceClass}>
              <span>
                {licence.licenceClass} <span className="mono small">{licence.number}</span>
              </span>
              <span className={licence.valid ? 'muted' : 'error'}>
                {licence.answer === 'NO_ANSWER'
                  ? 'register did not answer'
                  : licence.answer === 'FOUND'
                    ? `${licence.valid ? 'to' : 'lapsed'} ${date(licence.validTo)}`
                    : 'not in the register'}
              </span>
            </div>
          ))}
        </section>
        <section className="above-20">
          <h2>Duplicate PO numbers</h2>
          <div>
            same {customer.po.same.toLowerCase()}, alike {customer.po.alike.toLowerCase()}, near{' '}
            {customer.po.near.toLowerCase()}
          </div>
          <div>{customer.po.required ? 'a PO number is required' : 'no PO number is required'}</div>
          {customer.po.ceiling != null && (
            <div>
              one PO covers orders up to {currency()} {figure(customer.po.ceiling)}
            </div>
          )}
          <div className="muted small">{customer.po.own ? 'agreed with the customer' : 'company rules'}</div>
        </section>
      </aside>
    </div>
  );
}

const LISTS: [string, string][] = [
  ['orders', '/orders'],
  ['order lines', '/lists/order-lines'],
  ['invoices', '/billing/invoices'],
  ['payments', '/billing/payments'],
  ['credit notes', '/billing/credit-notes'],
  ['returns', '/lists/returns'],
  ['disputes', '/billing/disputes'],
];

/** The lists of documents, with this customer's alone. */
function ItsLists({ code }: { code: string }) {
  return (
    <section className="above-20">
      <h2>Lists</h2>
      {LISTS.map(([words, to], index) => (
        <span key={to}>
          {index > 0 && ' · '}
          <Link className="nowrap" to={`${to}?filter=${encodeURIComponent(`customer:any:${code}`)}`}>
            {words}
          </Link>
        </span>
      ))}
    </section>
  );
}

/** Every PO number that was used, with what it became. */
function PoNumbers({ code }: { code: string }) {
  const [q, setQ] = useState('');
  const list = useInfiniteQuery({ ...posQuery(code, q), placeholderData: (before) => before });
  if (!list.data) return <Waiting query={list} />;
  const rows = list.data.pages.flatMap((page) => page.rows);
  return (
    <>
      <SearchLine label="PO number" value={q} onChange={setQ} />
      <Table
        caption="PO numbers"
        of={rows}
        keyOf={(row) => row.kind + row.number}
        className="above-6"
        rowOf={(row) => ({ className: ['CANCELLED', 'DECLINED'].includes(row.state ?? '') ? 'dropped' : '' })}
        columns={[
          { head: 'Customer PO', className: 'mono breaks', cell: (row) => row.po },
          { head: 'Normalised', className: 'mono muted', cell: (row) => row.normal },
          {
            head: 'Used by',
            cell: (row) =>
              row.kind === 'ORDER' ? (
                <Doc kind="ORDER" number={row.number} />
              ) : (
                <span className="mono">{row.number}</span>
              ),
          },
          { head: 'State', cell: (row) => (row.state ? Words(row.state) : 'imported invoice') },
          { head: 'On', className: 'nowrap', cell: (row) => date(row.on) },
          { head: <>Net {currency()}</>, num: true, cell: (row) => figure(row.net) },
          {
            head: 'Billed as',
            cell: (row) =>
              row.invoices.map((invoice) => (
                <span key={invoice}>
                  <Doc kind="INVOICE" number={invoice} />{' '}
                </span>
              )),
          },
        ]}
      />
      {rows.length === 0 && <Empty>{q ? 'This number was not used.' : 'No PO numbers yet.'}</Empty>}
      <More query={list} />
    </>
  );
}

function Decisions({ customer }: { customer: CustomerSheet }) {
  if (!customer.decisions?.length) return <Empty>No decisions yet.</Empty>;
  return (
    <Table
      caption="Decisions"
      of={customer.decisions}
      keyOf={(_, index) => index}
      columns={[
        { head: 'On', className: 'nowrap', cell: (decision) => date(decision.on) },
        { head: 'Order', cell: (decision) => <Doc kind="ORDER" number={decision.order} /> },
        { head: 'What', className: 'breaks', cell: (decision) => decision.sentence },
        { head: 'By', cell: (decision) => decision.by },
      ]}
    />
  );
}
