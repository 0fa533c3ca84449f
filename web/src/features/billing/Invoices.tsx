import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, trim, Words } from '../../shared/format';
import { codeIn, DataList, textIn } from '../../shared/list/DataList';
import { offersOf } from '../../shared/offered';
import { useSession } from '../../shared/session';
import { Doc, Mark, Waiting } from '../../shared/ui';
import { priceColumn } from '../../shared/ui/Price';
import { Table } from '../../shared/ui/Table';
import { MailButton, PrintBar, PrintButton } from '../paper';
import { TakeBack } from '../unwind';
import { Allowance } from './Allowance';
import { BillingTabs } from './BillingTabs';
import { DisputesOf, NewDispute } from './Dispute';
import { VatTotals } from './VatTotals';
import { WaysOut } from './WaysOut';
import { WriteOff } from './WriteOff';
import { WriteOffTogether } from './WriteOffTogether';
import { invoiceActionsQuery, invoiceQuery } from './api';

const TAKEN_BACK = { kind: 'INVOICE', intent: 'take-back-invoice', one: 'invoice', many: 'invoices' } as const;

/** All invoices; those that are open unless somebody sees others first. */
export function Invoices() {
  const { may, today } = useSession();
  const [writesOff, setWritesOff] = useState<{ invoices: string[]; none: () => void } | null>(null);
  return (
    <>
      <DataList
        name="invoices"
        first="open"
        top={<BillingTabs />}
        place={(row) => `/billing/invoice/${row.opens}`}
        className={(row) => (textIn(row, 'state') === 'REVERSED' ? 'dropped' : '')}
        cell={(column, row) => {
          if (column === 'dueOn' && ['OPEN', 'PART_PAID'].includes(textIn(row, 'state')))
            return <span className={textIn(row, 'dueOn') < today ? 'error' : ''}>{date(textIn(row, 'dueOn'))}</span>;
          if (column === 'open') return orDash(textIn(row, 'open'));
          if (column === 'disputed')
            return textIn(row, 'disputed') === 'YES' ? (
              <>
                <Mark of="caution" />
                disputed
              </>
            ) : (
              <></>
            );
          return undefined;
        }}
        selected={(chosen, { at, none }) => {
          const numbers = chosen.map((row) => row.opens);
          return (
            <PrintBar paper="INVOICE" numbers={numbers}>
              <button
                className="button"
                disabled={!may('BILL') || numbers.length === 0}
                onClick={() => setWritesOff({ invoices: numbers, none })}
              >
                Write off {numbers.length || ''} selected
              </button>
              <TakeBack of={TAKEN_BACK} numbers={numbers} at={at?.opens} onDone={none} />
              {at && codeIn(at, 'customer') && (
                <Link className="button" to={`/billing/receive?customer=${encodeURIComponent(codeIn(at, 'customer'))}`}>
                  Record its payment
                </Link>
              )}
            </PrintBar>
          );
        }}
      />
      {writesOff && (
        <WriteOffTogether
          invoices={writesOff.invoices}
          onClose={() => setWritesOff(null)}
          onDone={() => {
            writesOff.none();
            setWritesOff(null);
          }}
        />
      )}
    </>
  );
}

/** An invoice with the origin of each line, its VAT, and what settled it. */
export function InvoicePage() {
  const { number = '' } = useParams();
  const query = useQuery(invoiceQuery(number));
  const invoice = query.data;
  const { today } = useSession();
  const offered = useQuery(invoiceActionsQuery(number)).data;
  const { has, can, why } = offersOf(offered?.actions ?? []);
  const [asking, setAsking] = useState<'credit' | 'write-off' | 'dispute' | null>(null);
  if (!invoice) return <Waiting query={query} />;
  const ahead = invoice.lines.some((line) => !isZero(line.ahead));
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Invoice <span className="mono">{invoice.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(invoice.customer)}`}>{invoice.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            {Words(invoice.state)} · <WaysOut kind="INVOICE" number={invoice.number} />
          </span>
        </div>
        <p className="situation">
          {invoice.state === 'REVERSED'
            ? 'Reversed. It stays on record and no longer counts.'
            : isZero(invoice.open)
              ? invoice.reductions.length === 0
                ? 'Paid in full.'
                : 'Nothing is open.'
              : `${currency()} ${figure(invoice.open)} of ${figure(invoice.gross)} are open, ${invoice.dueOn < today ? `past due since ${date(invoice.dueOn)}` : `due on ${date(invoice.dueOn)}`}.`}
          {ahead && ' Part of it was billed ahead; that revenue is deferred until the goods leave.'}
        </p>
        {invoice.earlyPayment && (
          <p>
            {trim(invoice.earlyPayment.percent)} % early-payment discount until {date(invoice.earlyPayment.until)}:{' '}
            {currency()} {figure(invoice.earlyPayment.due)} settle it, {figure(invoice.earlyPayment.discount)} less
            {invoice.earlyPayment.until < today && '; its days are over'}.
          </p>
        )}
        {invoice.reductions.map((one) => (
          <p key={one.kind + one.number}>
            {currency()} {figure(one.amount)}{' '}
            {one.kind === 'DISCOUNT'
              ? 'taken as early-payment discount with'
              : one.kind === 'BAD_DEBT'
                ? 'written off as bad debt with'
                : 'written off as a small difference with'}{' '}
            <Doc kind={one.documentKind} number={one.number} /> on {date(one.on)}
            {!isZero(one.tax) && `, of it VAT ${figure(one.tax)}`}
            {one.reason && `: ${one.reason}`}
          </p>
        ))}
        <DisputesOf invoice={invoice.number} />
        {invoice.text && <p className="space-pre-wrap">{invoice.text}</p>}
        <Table
          caption="Lines"
          of={invoice.lines}
          keyOf={(line) => line.no}
          columns={[
            { head: 'Line', num: true, cell: (line) => line.no },
            {
              head: 'Item',
              cell: (line) => (
                <>
                  {line.description} <span className="mono muted small nowrap">{line.item}</span>
                  {!isZero(line.ahead) && (
                    <div className="small">
                      <Mark of="awaiting" />
                      {trim(line.ahead)} not shipped yet
                    </div>
                  )}
                </>
              ),
            },
            { head: 'Order', cell: (line) => <Doc kind="ORDER" number={line.order} /> },
            {
              head: 'Dispatch',
              cell: (line) =>
                line.dispatches.map((dispatch) => (
                  <div key={dispatch}>
                    <Doc kind="DISPATCH" number={dispatch} />
                  </div>
                )),
            },
            { head: 'Customer PO', className: 'mono breaks', cell: (line) => line.po },
            { head: 'Quantity', num: true, cell: (line) => trim(line.quantity) },
            priceColumn(),
            {
              head: 'VAT',
              num: true,
              cell: (line) => (
                <>
                  {line.vatCategory} {trim(line.vatRate)} %
                </>
              ),
            },
            { head: <>Net {currency()}</>, num: true, cell: (line) => figure(line.net) },
          ]}
        />
        <VatTotals of={invoice} />
      </div>
      <div className="bar">
        <PrintButton paper="INVOICE" numbers={[invoice.number]}>
          Print
        </PrintButton>
        <MailButton paper="INVOICE" number={invoice.number} />
        {has('CREDIT') && (
          <button
            className="button"
            disabled={!can('CREDIT')}
            title={why('CREDIT')}
            onClick={() => setAsking('credit')}
          >
            Credit without goods
          </button>
        )}
        {can('CREDIT_AND_REBILL') && (
          <Link className="button" to={`/billing/correct/${invoice.number}`}>
            Credit and rebill
          </Link>
        )}
        {can('PAY') && (
          <Link className="button" to={`/billing/receive?customer=${encodeURIComponent(invoice.customer)}`}>
            Record a payment
          </Link>
        )}
        {can('DISPUTE') && (
          <button className="button" onClick={() => setAsking('dispute')}>
            Dispute
          </button>
        )}
        {has('WRITE_OFF') && (
          <button
            className="button"
            disabled={!can('WRITE_OFF')}
            title={why('WRITE_OFF')}
            onClick={() => setAsking('write-off')}
          >
            Write off
          </button>
        )}
        <span className="gap" />
        <Link className="small" to={`/ledger/journal?document=${invoice.number}`}>
          Entries
        </Link>
      </div>
      {asking === 'credit' && <Allowance invoice={invoice} onClose={() => setAsking(null)} />}
      {asking === 'dispute' && <NewDispute invoice={invoice} onClose={() => setAsking(null)} />}
      {asking === 'write-off' && <WriteOff invoice={invoice} onClose={() => setAsking(null)} />}
    </div>
  );
}
