import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { Doc, Waiting } from '../../shared/ui';
import { Attachments } from '../document';
import { TakeBackBar } from '../unwind';
import { BillingTabs } from './BillingTabs';
import { WaysOut } from './WaysOut';
import { writeOffQuery } from './api';

const TAKEN_BACK = { kind: 'WRITE_OFF', intent: 'take-back-write-off', one: 'write-off', many: 'write-offs' } as const;

/** What was written off, newest first. */
export function WriteOffs() {
  return (
    <DataList
      name="write-offs"
      top={<BillingTabs />}
      className={(row) => (textIn(row, 'reversed') === 'YES' ? 'dropped' : '')}
      cell={(column, row) => (column === 'vat' ? orDash(textIn(row, 'vat')) : undefined)}
      selected={(chosen, on) => <TakeBackBar of={TAKEN_BACK} chosen={chosen} {...on} />}
    />
  );
}

/** A write-off: of what, why, and the way to take it back. */
export function WriteOffPage() {
  const { number = '' } = useParams();
  const query = useQuery(writeOffQuery(number));
  const written = query.data;
  if (!written) return <Waiting query={query} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Write-off <span className="mono">{written.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(written.customer)}`}>{written.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind="WRITE_OFF" number={written.number} />
          </span>
        </div>
        <p className="situation">
          {currency()} {figure(written.amount)} of invoice <Doc kind="INVOICE" number={written.invoice} /> written off
          on {date(written.on)} as {written.kind === 'BAD_DEBT' ? 'bad debt' : 'a small difference'}
          {written.by && ` by ${written.by}`}.
          {written.reversedOn && ` Taken back on ${date(written.reversedOn)}: the amount is open again.`}
        </p>
        <p>Reason: {written.reason}</p>
        {written.kind === 'BAD_DEBT' && (
          <p className="muted">
            {isZero(written.tax)
              ? 'No VAT is claimed back with it.'
              : `${currency()} ${figure(written.tax)} of it is VAT that is claimed back.`}
          </p>
        )}
        <Attachments owner="write-offs" number={written.number} />
      </div>
      <div className="bar">
        <span className="gap" />
        <Link className="small" to={`/ledger/journal?document=${written.number}`}>
          Entries
        </Link>
      </div>
    </div>
  );
}
