import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { withEmptyLast } from '../../shared/entryRows';
import { date, isZero, moment, words } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Empty, ProblemNote, ReasonDialog, ReasonInput, tell, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { useWritten } from '../../shared/written';
import { accountsQuery } from './AccountSheet';

type Side = { account: string; debit: string; credit: string };
const NO_SIDE: Side = { account: '', debit: '', credit: '' };

/** An entry that no document brings about: by the finance lead, with a reason, never into accounts that documents account for. */
export function ManualEntry() {
  const { today, may } = useSession();
  const accounts = useQuery(accountsQuery);
  const [sides, setSides] = useState<Side[]>([NO_SIDE, NO_SIDE]);
  const [reason, setReason] = useState('');
  const [on, setOn] = useState(today);
  useUnsaved(reason !== '' || sides.some((side) => side !== NO_SIDE));
  const written = sides.filter((side) => side.account);
  const post = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/ledger/manual-entries', {
          body: {
            lines: written.map((side) => ({
              account: side.account,
              debit: side.debit || undefined,
              credit: side.credit || undefined,
            })),
            reason,
            date: on,
          },
          ...once(),
        }),
      ),
    onSuccess: (entry) => {
      tell(
        <>
          Posted as entry <Link to={`/ledger/journal?entry=${entry.number}`}>{entry.number}</Link>.
        </>,
      );
      setSides([NO_SIDE, NO_SIDE]);
      setReason('');
    },
  });
  if (!accounts.data) return <Waiting query={accounts} />;
  if (!may('KEEP_BOOKS')) return <Empty>Manual entries are for the finance lead.</Empty>;
  const set = (at: number, change: Partial<Side>) => {
    const changed = sides.map((side, index) => (index === at ? { ...side, ...change } : side));
    setSides(withEmptyLast(changed, (side) => side.account !== '', NO_SIDE));
  };
  return (
    <form
      className="up-to-760"
      onSubmit={(event) => {
        event.preventDefault();
        if (!post.isPending) post.mutate();
      }}
    >
      <div className="page-head">
        <h1>Manual entry</h1>
        <span className="muted">control accounts are not offered</span>
      </div>
      <Table
        caption="Lines of the entry"
        of={sides}
        keyOf={(_, at) => at}
        className="inset"
        columns={[
          {
            head: 'Account',
            cell: (side, at) => (
              <Choice
                className="cell-input"
                aria-label={`Account of line ${at + 1}`}
                value={side.account}
                onChange={(to) => set(at, { account: to })}
              >
                <option value="" />
                {accounts.data
                  .filter((one) => !one.control)
                  .map((one) => (
                    <option key={one.code} value={one.code}>
                      {one.code} {one.name}
                    </option>
                  ))}
              </Choice>
            ),
          },
          {
            head: <>Debit {currency()}</>,
            width: 'num wide-130',
            cell: (side, at) => (
              <FigureInput
                label={`Debit of line ${at + 1}`}
                value={side.debit}
                onChange={(to) => set(at, { debit: to, credit: '' })}
              />
            ),
          },
          {
            head: <>Credit {currency()}</>,
            width: 'num wide-130',
            cell: (side, at) => (
              <FigureInput
                label={`Credit of line ${at + 1}`}
                value={side.credit}
                onChange={(to) => set(at, { credit: to, debit: '' })}
              />
            ),
          },
        ]}
      />
      <div className="fields columns-150px-1fr above-16">
        <Field of="hand-date" label="Dated">
          <DayInput id="hand-date" value={on} onChange={setOn} />
        </Field>
        <Field of="hand-why" label="Reason">
          <ReasonInput id="hand-why" value={reason} onChange={setReason} />
        </Field>
      </div>
      <ProblemNote problem={post.error} />
      <button
        className="button first"
        disabled={
          written.length < 2 ||
          !reason.trim() ||
          written.some((side) => isZero(side.debit) && isZero(side.credit)) ||
          post.isPending
        }
      >
        Post
      </button>
    </form>
  );
}

const ROLES = [
  'bank',
  'receivables',
  'inventory',
  'goods_out',
  'goods_in_inspection',
  'stock_clearing',
  'deposits',
  'customer_credit',
  'deferred_revenue',
  'output_vat',
  'revenue',
  'sales_returns',
  'cogs',
  'write_off',
  'given_away',
  'stock_adjustment',
];
const WORDS: Record<string, string> = { cogs: 'cost of sales', output_vat: 'output VAT' };
const roleWords = (role: string) => WORDS[role] ?? words(role);

/** Posting map, and how that came to be; the finance lead changes it for later entries. */
export function PostingMap() {
  const { may } = useSession();
  const query = useQuery({
    queryKey: keyOf('ledger', 'map'),
    queryFn: () => answer(client.GET('/api/ledger/posting-map')),
  });
  const changes = useQuery({
    queryKey: keyOf('ledger', 'map', 'changes'),
    queryFn: () => answer(client.GET('/api/ledger/posting-map/changes')),
  });
  const [row, setRow] = useState<Schemas['WrittenRow'] | null>(null);
  if (!query.data) return <Waiting query={query} />;
  const lead = may('KEEP_BOOKS');
  const any = (text: string) => text || <span className="muted">any</span>;
  return (
    <>
      <div className="page-head">
        <h1>Posting map</h1>
        <span className="muted">
          The most specific matching row is used.
          {lead && (
            <>
              {' '}
              <button
                className="plain"
                onClick={() =>
                  setRow({ role: 'revenue', customerClass: '', itemClass: '', site: '', vat: '', account: '' })
                }
              >
                Add a row
              </button>
            </>
          )}
        </span>
      </div>
      {row && <RowForm key={JSON.stringify(row)} start={row} onClose={() => setRow(null)} />}
      <Table
        caption="Posting map"
        of={query.data}
        keyOf={(_, index) => index}
        columns={[
          { head: 'Role', cell: (one) => roleWords(one.role) },
          { head: 'Customer class', cell: (one) => any(one.customerClass) },
          { head: 'Item class', cell: (one) => any(one.itemClass) },
          { head: 'Store', cell: (one) => any(one.site) },
          { head: 'VAT', cell: (one) => any(one.vat) },
          {
            head: 'Account',
            cell: (one) => (
              <Link to={`/ledger/account?account=${one.account}`}>
                <span className="mono small">{one.account}</span> {one.accountName}
              </Link>
            ),
          },
          lead && {
            cell: (one) => (
              <button
                className="plain small"
                onClick={() =>
                  setRow({
                    role: one.role,
                    customerClass: one.customerClass,
                    itemClass: one.itemClass,
                    site: one.site,
                    vat: one.vat,
                    account: one.account,
                  })
                }
              >
                change
              </button>
            ),
          },
        ]}
      />
      {changes.data && changes.data.length > 0 && (
        <>
          <h2 className="above-22">Changes</h2>
          {changes.data.map((change, index) => (
            <div key={index} className="inset-3px-0">
              <span className="muted small">
                {moment(change.at)}, {change.by}
              </span>{' '}
              {change.sentence} <span className="muted">({change.reason})</span>
            </div>
          ))}
        </>
      )}
    </>
  );
}

function RowForm({ start, onClose }: { start: Schemas['WrittenRow']; onClose: () => void }) {
  const accounts = useQuery(accountsQuery).data ?? [];
  const written = useWritten({ ...start, reason: start.reason ?? '', account: start.account ?? '' });
  const row = written.values;
  const save = useMutation({
    mutationFn: () => answer(client.PUT('/api/ledger/posting-map', { body: row, ...once() })),
    onSuccess: () => {
      tell('Posting map changed; posted entries keep their accounts.');
      onClose();
    },
    onError: written.refused,
  });
  const key = (name: 'customerClass' | 'itemClass' | 'site' | 'vat', label: string, placeholder: string) => (
    <Field of={`row-${name}`} label={label} error={written.wrong(name)}>
      <TextLine
        id={`row-${name}`}
        maxLength={40}
        placeholder={placeholder}
        value={row[name] ?? ''}
        onChange={written.of(name).onChange}
      />
    </Field>
  );
  return (
    <form
      style={{ borderLeft: '2px solid var(--sea)', padding: '4px 0 10px 14px', margin: '4px 0 14px' }}
      onSubmit={(event) => {
        event.preventDefault();
        if (row.reason.trim() && !save.isPending) save.mutate();
      }}
    >
      <div className="fields columns-1-2fr-1fr-1fr-1fr-0-8fr-1-6fr">
        <Field of="row-role" label="Role" error={written.wrong('role')}>
          <Choice id="row-role" {...written.of('role')}>
            {ROLES.map((role) => (
              <option key={role} value={role}>
                {roleWords(role)}
              </option>
            ))}
          </Choice>
        </Field>
        {key('customerClass', 'Customer class', 'any')}
        {key('itemClass', 'Item class', 'any')}
        {key('site', 'Store', 'any')}
        {key('vat', 'VAT', 'any, or S 21')}
        <Field of="row-account" label="Account" error={written.wrong('account')}>
          <Choice id="row-account" {...written.of('account')}>
            <option value="">none: remove the row</option>
            {accounts.map((one) => (
              <option key={one.code} value={one.code}>
                {one.code} {one.name}
              </option>
            ))}
          </Choice>
        </Field>
        <Field of="row-reason" label="Reason" className="spans-span-5" error={written.wrong('reason')}>
          <ReasonInput id="row-reason" {...written.of('reason')} />
        </Field>
        <div className="row gap-10 aligned-end">
          <button className="button first" disabled={!row.reason.trim() || save.isPending}>
            Save the row
          </button>
          <button type="button" className="plain" onClick={onClose}>
            Cancel
          </button>
        </div>
      </div>
      <ProblemNote problem={save.error} />
    </form>
  );
}

/** Through which day the books are closed; the finance lead closes and, for a reason, opens again. */
export function Periods() {
  const { may } = useSession();
  const query = useQuery({
    queryKey: keyOf('ledger', 'periods'),
    queryFn: () => answer(client.GET('/api/ledger/periods')),
  });
  const [chosen, setThrough] = useState<string | null>(null);
  const through = chosen ?? query.data?.next ?? '';
  const [asking, setAsking] = useState<'close' | 'open' | null>(null);
  const done = () => setAsking(null);
  const close = useMutation({
    mutationFn: (remark: string) =>
      answer(client.POST('/api/ledger/periods/closings', { body: { through, remark }, ...once() })),
    onSuccess: done,
  });
  const open = useMutation({
    mutationFn: (reason: string) =>
      answer(client.POST('/api/ledger/periods/reopenings', { body: { reason }, ...once() })),
    onSuccess: done,
  });
  if (!query.data) return <Waiting query={query} />;
  const closed = query.data.closedThrough;
  return (
    <>
      <div className="page-head">
        <h1>Periods</h1>
      </div>
      <p className="situation">
        {closed
          ? `The books are closed through ${date(closed)}: no entry can be dated on it or before.`
          : 'No period is closed: entries can be dated on any day.'}
      </p>
      {may('KEEP_BOOKS') ? (
        <div className="row gap-14 aligned-end below-16">
          <Field of="close-through" label="Close through">
            <DayInput id="close-through" value={through} onChange={setThrough} />
          </Field>
          <button
            className="button first"
            disabled={!through || (!!closed && through <= closed)}
            onClick={() => setAsking('close')}
          >
            Close
          </button>
          {closed && (
            <button className="button" onClick={() => setAsking('open')}>
              Reopen
            </button>
          )}
        </div>
      ) : (
        <p className="muted">The finance lead closes and reopens periods.</p>
      )}
      <Table
        caption="Periods"
        of={query.data.closings}
        keyOf={(_, index) => index}
        rowOf={(one) => ({ className: one.reopenedAt ? 'dropped' : '' })}
        columns={[
          { head: 'Through', className: 'nowrap', cell: (one) => date(one.through) },
          {
            head: 'Closed',
            className: 'nowrap',
            cell: (one) => (
              <>
                {moment(one.closedAt)}, {one.closedBy}
              </>
            ),
          },
          { head: 'Remark', cell: (one) => one.remark },
          {
            head: 'Reopened',
            className: 'nowrap',
            cell: (one) => (one.reopenedAt ? `${moment(one.reopenedAt)}, ${one.reopenedBy}` : '–'),
          },
          { head: 'Why', cell: (one) => one.reason },
        ]}
      />
      {query.data.closings.length === 0 && <Empty>No period closed yet.</Empty>}
      {asking === 'close' && (
        <ReasonDialog
          title={`Close the books through ${date(through)}`}
          action="Close"
          optional
          busy={close.isPending}
          problem={close.error}
          onClose={done}
          onGiven={close.mutate}
        >
          No entry can be dated on that day or before, until the period is reopened.
        </ReasonDialog>
      )}
      {asking === 'open' && closed && (
        <ReasonDialog
          title={`Open the period through ${date(closed)} again`}
          action="Reopen"
          busy={open.isPending}
          problem={open.error}
          onClose={done}
          onGiven={open.mutate}
        />
      )}
    </>
  );
}
