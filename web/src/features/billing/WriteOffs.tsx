import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, Words } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { SelectAll, SelectOne, useSelection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, Waiting } from '../../shared/ui';
import { Choice } from '../../shared/ui/fields';
import { Attachments } from '../document';
import { TakeBackBar } from '../unwind';
import { WaysOut } from './WaysOut';
import { WRITTEN_OFF, type WrittenOff } from './WriteOff';
import { writeOffQuery, writeOffsQuery } from './api';

const TAKEN_BACK = { kind: 'WRITE_OFF', intent: 'take-back-write-off', one: 'write-off', many: 'write-offs' } as const;

/** What was written off, newest first; those taken back are struck through. */
export function WriteOffs() {
  const navigate = useGo();
  const [search] = useSearchParams();
  const { today } = useSession();
  const since = search.get('thisMonth') === 'true' ? `${today.slice(0, 8)}01` : undefined;
  const [kind, setKind] = useState<WrittenOff | ''>('');
  const list = useInfiniteQuery(writeOffsQuery(kind === '' ? undefined : kind, since));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(
    rows,
    (row) => row.number,
    (row) => navigate(`/billing/write-off/${row.number}`),
  );
  if (!list.data) return <Waiting query={list} />;
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>{since ? `Written off since ${date(since)}` : 'Write-offs'}</h1>
          <Choice
            label="Kind"
            className="cell-input wide-190"
            of={[['', 'All'], ...WRITTEN_OFF]}
            value={kind}
            onChange={setKind}
          />
        </div>
        <table className="rows">
          <caption className="unseen">Write-offs</caption>
          <thead>
            <tr>
              <SelectAll selection={selection} />
              <th>Write-off</th>
              <th>Customer</th>
              <th>Invoice</th>
              <th>Date</th>
              <th>As</th>
              <th>Reason</th>
              <th>By</th>
              <th className="num">Amount {currency()}</th>
              <th className="num">of it VAT {currency()}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr
                key={row.number}
                className={`${index === selection.at ? 'at' : ''}${row.reversedOn ? ' dropped' : ''}`}
              >
                <SelectOne selection={selection} row={row} name={row.number} />
                <td className="nowrap">
                  <Link className="mono" to={`/billing/write-off/${row.number}`}>
                    {row.number}
                  </Link>
                  {row.reversedOn && <span className="muted small"> taken back</span>}
                </td>
                <td>{row.customerName}</td>
                <td>
                  <Link className="mono" to={`/billing/invoice/${row.invoice}`}>
                    {row.invoice}
                  </Link>
                </td>
                <td className="nowrap">{date(row.on)}</td>
                <td className="nowrap">{Words(row.kind)}</td>
                <td className="breaks">{row.reason}</td>
                <td>{row.by}</td>
                <td className="num">{figure(row.amount)}</td>
                <td className="num">{orDash(row.tax)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>Nothing was written off.</Empty>}
        <More query={list} />
      </div>
      <TakeBackBar of={TAKEN_BACK} rows={rows} selection={selection} />
    </>
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
