import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { answer, client, once, type Problem, type Schemas, upload } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, moment, orDash } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, ProblemNote, ReasonDialog, tell, tellProblem, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { BatchLog } from '../batch';
import { CustomerLook } from '../masterdata';
import { bankEntriesQuery, bankStatementQuery, bankStatementsQuery } from './api';

/** Statements of the bank: read in, and each entry set against invoices. */
export function BankPage() {
  const [search, setSearch] = useSearchParams();
  const { demo, may } = useSession();
  const list = useInfiniteQuery(bankStatementsQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const chosen = Number(search.get('statement')) || 0;
  const read = useMutation<Schemas['ReadStatementView'][], Problem, File>({
    mutationFn: (file) => answer(client.POST('/api/bank-statements', { ...upload(file), ...once() })),
    onSuccess: (found) => {
      const fresh = found.filter((one) => !one.readBefore);
      tell(
        fresh.length === 0
          ? 'This statement was imported before; nothing is imported twice.'
          : `Statement ${fresh.map((one) => one.statementId).join(', ')} imported: ${fresh.reduce((sum, one) => sum + one.open, 0)} entries to settle.`,
      );
      if (found[0]) setSearch({ statement: String(found[0].id) });
    },
  });
  if (!list.data) return <Waiting query={list} />;
  if (chosen) return <Entries key={chosen} id={chosen} />;
  return (
    <div className="page-scroll inset-top-0">
      <div className="page-head">
        <h1>Bank statements</h1>
        {may('BILL') && (
          <label className="small">
            Import a camt.053 file{' '}
            <input
              type="file"
              accept=".xml,application/xml,text/xml"
              aria-label="Statement file"
              onChange={(event) => {
                if (event.target.files?.[0]) read.mutate(event.target.files[0]);
                event.target.value = '';
              }}
            />
          </label>
        )}
      </div>
      <ProblemNote problem={read.error} />
      {rows.length > 0 && (
        <Table
          caption="Bank statements"
          of={rows}
          keyOf={(row) => row.id}
          columns={[
            {
              head: 'Statement',
              cell: (row) => (
                <Link className="mono" to={`/billing/bank?statement=${row.id}`}>
                  {row.statementId}
                </Link>
              ),
            },
            { head: 'Account', className: 'mono small', cell: (row) => row.account },
            { head: 'From', className: 'nowrap', cell: (row) => date(row.from) },
            { head: 'To', className: 'nowrap', cell: (row) => date(row.to) },
            {
              head: <>Opening balance {currency()}</>,
              num: true,
              cell: (row) => orDash(row.opening?.replace(/00$/, '')),
            },
            {
              head: <>Closing balance {currency()}</>,
              num: true,
              cell: (row) => orDash(row.closing?.replace(/00$/, '')),
            },
            {
              head: 'Imported',
              className: 'nowrap small',
              cell: (row) => (
                <>
                  {moment(row.readAt)}, {row.readBy}
                </>
              ),
            },
            { head: 'Entries', num: true, cell: (row) => row.entries },
            { head: 'To settle', num: true, className: 'strong', cell: (row) => row.open || '–' },
          ]}
        />
      )}
      {rows.length === 0 && <Empty>No statement imported yet. Your bank provides camt.053 files.</Empty>}
      {demo && (
        <p className="muted small">
          To try it out: <a href="/api/demo/bank-statement">an invented statement for your open invoices</a>.
        </p>
      )}
      <More query={list} />
    </div>
  );
}

const SURE = { CERTAIN: 'settled', LIKELY: 'awaiting', POSSIBLE: 'caution' };

function Entries({ id }: { id: number }) {
  const { may } = useSession();
  const statement = useQuery(bankStatementQuery(id));
  const list = useInfiniteQuery(bankEntriesQuery(id));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const certain = rows.filter((row) => row.state === 'OPEN' && row.proposals[0]?.sureness === 'CERTAIN').length;
  const all = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/bank-statements/{id}/payments', { params: { path: { id } }, ...once() })),
    onError: tellProblem,
  });
  if (!list.data) return <Waiting query={list} />;
  if (!statement.data) return <Waiting query={statement} />;
  const { statementId, open } = statement.data;
  const shown = list.hasNextPage ? ' on this page' : '';
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>Statement {statementId}</h1>
          <Link to="/billing/bank">All statements</Link>
        </div>
        <p className="situation">
          {open === 0
            ? 'All entries are settled.'
            : `${open} ${open === 1 ? 'entry is' : 'entries are'} to be settled; of ${certain === 0 ? 'none' : certain === 1 ? 'one' : certain}${shown} the invoice is certain.`}
        </p>
        <Table
          caption="Entries of the statement"
          of={rows}
          keyOf={(row) => row.id}
          columns={[
            { head: 'No', num: true },
            { head: 'Booked' },
            { head: 'From' },
            { head: 'Reference' },
            { head: <>Amount {currency()}</>, num: true },
            { head: 'Settles', width: 'wide-40pc' },
          ]}
          drawn={(row) => <EntryRow row={row} mayBill={may('BILL')} />}
        />
        <More query={list} />
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!may('BILL') || all.isPending || open === 0 || (certain === 0 && !list.hasNextPage)}
          onClick={() => all.mutate()}
        >
          {list.hasNextPage
            ? 'Settle all that are certain'
            : `Settle ${certain === 1 ? 'the one that is certain' : `all ${certain || ''} that are certain`}`}
        </button>
        <span className="muted small">
          Certain: the entry names its invoices, and the amount settles them to the cent.
        </span>
      </div>
      <BatchLog batch={all.data} onClose={all.reset} />
    </>
  );
}

function EntryRow({ row, mayBill }: { row: Schemas['BankEntryView']; mayBill: boolean }) {
  const [aside, setAside] = useState(false);
  const [other, setOther] = useState(false);
  const accept = useMutation<Schemas['BankEntryView'], Problem, Schemas['EntryPart'][]>({
    mutationFn: (parts) =>
      answer(
        client.POST('/api/bank-entries/{id}/payments', {
          params: { path: { id: row.id } },
          body: { parts },
          ...once(),
        }),
      ),
    onSuccess: ({ payments }) =>
      tell(payments.length === 1 ? `Payment ${payments[0]} records it.` : `Payments ${payments.join(', ')} record it.`),
  });
  const put = useMutation({
    mutationFn: (reason: string) =>
      answer(
        client.POST('/api/bank-entries/{id}/settings-aside', {
          params: { path: { id: row.id } },
          body: { reason },
          ...once(),
        }),
      ),
    onSuccess: () => setAside(false),
  });
  return (
    <tr className={row.state === 'NOT_OURS' || row.state === 'SET_ASIDE' ? 'dropped' : ''}>
      <td className="num muted">{row.no}</td>
      <td className="nowrap">{date(row.bookedOn)}</td>
      <td className="breaks">
        {row.payer || <span className="muted">not named</span>}
        <div className="mono muted small">{row.payerAccount}</div>
      </td>
      <td className="small breaks">
        {row.creditorReference && <div className="mono">{row.creditorReference}</div>}
        {row.remittance}
      </td>
      <td className="num">{figure(row.amount)}</td>
      <td>
        {row.state === 'SETTLED' && (
          <>
            <Mark of="settled" />
            {row.payments.length === 1 ? 'payment' : 'payments'}{' '}
            {row.payments.map((payment, index) => (
              <Fragment key={payment}>
                {index > 0 && ', '}
                <Link className="mono" to={`/billing/payment/${payment}`}>
                  {payment}
                </Link>
              </Fragment>
            ))}
          </>
        )}
        {(row.state === 'NOT_OURS' || row.state === 'SET_ASIDE') && (
          <span className="small">{row.state === 'SET_ASIDE' ? `set aside by ${row.why}` : row.why}</span>
        )}
        {row.state === 'OPEN' &&
          row.proposals.slice(0, 3).map((proposal, index) => (
            <div key={index} className="row gap-10 aligned-baseline">
              <span className="grows-1">
                <Mark of={SURE[proposal.sureness]} />
                {proposal.sureness === 'CERTAIN' ? <b>certain</b> : proposal.sureness.toLowerCase()}:{' '}
                <span className="small">{proposal.reason}</span>
              </span>
              {mayBill && (
                <button
                  className="plain small nowrap"
                  disabled={accept.isPending}
                  onClick={() => accept.mutate(proposal.parts)}
                >
                  accept
                </button>
              )}
            </div>
          ))}
        {row.state === 'OPEN' && row.proposals.length === 0 && <div className="muted small">No invoice matches.</div>}
        {row.state === 'OPEN' && mayBill && (
          <div className="small row gap-14">
            <button className="plain" onClick={() => setOther(!other)}>
              on account…
            </button>
            <button className="plain" onClick={() => setAside(true)}>
              set aside
            </button>
          </div>
        )}
        {other && row.state === 'OPEN' && (
          <CustomerLook
            label={`Customer of entry ${row.no}`}
            shown=""
            autoFocus
            onTake={(hit) => accept.mutate([{ customer: hit.code, allocate: [] }])}
          />
        )}
        <ProblemNote problem={accept.error} />
        {aside && (
          <ReasonDialog
            title={`Entry ${row.no} is not a customer payment`}
            action="Set aside"
            busy={put.isPending}
            problem={put.error}
            onClose={() => setAside(false)}
            onGiven={put.mutate}
          />
        )}
      </td>
    </tr>
  );
}
