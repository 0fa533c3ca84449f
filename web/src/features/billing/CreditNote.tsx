import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, trim } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { Doc, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { MailButton, PrintBar, PrintButton } from '../paper';
import { TakeBack } from '../unwind';
import { BillingTabs } from './BillingTabs';
import { Settle } from './Settle';
import { VatTotals } from './VatTotals';
import { WaysOut } from './WaysOut';
import { creditNoteQuery } from './api';

const TAKEN_BACK = {
  kind: 'CREDIT_NOTE',
  intent: 'take-back-credit',
  one: 'credit note',
  many: 'credit notes',
} as const;

/** All credit notes, newest first; many on paper as one file. */
export function CreditNotes() {
  return (
    <DataList
      name="credit-notes"
      top={<BillingTabs />}
      className={(row) => (textIn(row, 'reversed') === 'YES' ? 'dropped' : '')}
      cell={(column, row) => (column === 'left' ? orDash(textIn(row, 'left')) : undefined)}
      selected={(chosen, { at, none }) => {
        const numbers = chosen.map((row) => row.opens);
        return (
          <PrintBar paper="CREDIT_NOTE" numbers={numbers}>
            <TakeBack of={TAKEN_BACK} numbers={numbers} at={at?.opens} onDone={none} />
          </PrintBar>
        );
      }}
    />
  );
}

/** A credit note with what it is for, and what of it is still to the customer's credit. */
export function CreditNotePage() {
  const { number = '' } = useParams();
  const query = useQuery(creditNoteQuery(number));
  const credit = query.data;
  if (!credit) return <Waiting query={query} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Credit note <span className="mono">{credit.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(credit.customer)}`}>{credit.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind="CREDIT_NOTE" number={credit.number} />
          </span>
        </div>
        <p className="situation">
          {currency()} {figure(credit.gross)} of invoice <Doc kind="INVOICE" number={credit.invoice} /> credited on{' '}
          {date(credit.on)}: {credit.reason}.{' '}
          {credit.reversedOn
            ? `Taken back on ${date(credit.reversedOn)}: it counts no more.`
            : isZero(credit.left)
              ? 'Fully used.'
              : `${currency()} ${figure(credit.left)} are customer credit.`}
        </p>
        <Table
          caption="Lines"
          of={credit.lines}
          keyOf={(line) => line.no}
          columns={[
            { head: 'Line', num: true, cell: (line) => line.no },
            {
              head: 'Item',
              cell: (line) => (
                <>
                  {line.description} <span className="mono muted small nowrap">{line.item}</span>
                </>
              ),
            },
            { head: 'Order', cell: (line) => <Doc kind="ORDER" number={line.order} /> },
            {
              head: 'Return',
              cell: (line) =>
                line.returnNumber ? (
                  <Doc kind="RETURN" number={line.returnNumber} />
                ) : (
                  <span className="muted">without goods</span>
                ),
            },
            { head: 'Invoice line', num: true, cell: (line) => line.invoiceLine },
            { head: 'Quantity', num: true, cell: (line) => (isZero(line.quantity) ? '–' : trim(line.quantity)) },
            {
              head: 'Fee retained',
              num: true,
              cell: (line) => (isZero(line.fee) ? '–' : `${figure(line.fee)} (${trim(line.feePercent)} %)`),
            },
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
        <VatTotals of={credit} />
        <h2>Use</h2>
        <Settle own number={credit.number} />
      </div>
      <div className="bar">
        <PrintButton paper="CREDIT_NOTE" numbers={[credit.number]}>
          Print
        </PrintButton>
        <MailButton paper="CREDIT_NOTE" number={credit.number} />
        <span className="gap" />
        <Link className="small" to={`/ledger/journal?document=${credit.number}`}>
          Entries
        </Link>
      </div>
    </div>
  );
}
