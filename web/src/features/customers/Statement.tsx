import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, Words } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { BroughtForward, Days } from '../ledger';
import { MailButton, PrintButton } from '../paper';
import { documentsQuery, openDocumentsQuery } from './api';

const monthsBefore = (day: string, months: number) => {
  const at = new Date(`${day}T00:00:00Z`);
  at.setUTCMonth(at.getUTCMonth() - months);
  return at.toISOString().slice(0, 10);
};

/** What of a statement somebody wants to see: the rows of a kind of documents, in the words of the choice. */
const KINDS: [string, string, string[]][] = [
  ['', 'all kinds', []],
  ['orders', 'orders', ['ORDER']],
  ['goods', 'dispatches and returns', ['DISPATCH', 'RETURN']],
  ['invoices', 'invoices and credit notes', ['INVOICE', 'CREDIT_NOTE', 'WRITE_OFF']],
  ['money', 'payments, deposits and refunds', ['PAYMENT', 'DEPOSIT', 'REFUND']],
];

/** All documents of a customer in one statement: what is open of them now, or what happened between two days. */
export function Statement({ code }: { code: string }) {
  const [search, setSearch] = useSearchParams();
  const isAll = search.get('show') === 'all';
  const only = search.get('only') ?? '';
  const set = (changed: Record<string, string>) => {
    const next = new URLSearchParams(search);
    Object.entries(changed).forEach(([name, value]) => (value ? next.set(name, value) : next.delete(name)));
    setSearch(next, { replace: true });
  };
  const kinds = KINDS.find(([name]) => name === only)?.[2] ?? [];
  const isShown = (row: { kind: string }) => kinds.length === 0 || kinds.includes(row.kind);
  return (
    <>
      <div className="row gap-20 aligned-baseline around-4px-0-8px">
        <span className="nowrap">
          <button className="plain" aria-pressed={!isAll} onClick={() => set({ show: '' })}>
            Open
          </button>{' '}
          ·{' '}
          <button className="plain" aria-pressed={isAll} onClick={() => set({ show: 'all' })}>
            All
          </button>
        </span>
        <span className="muted">
          {KINDS.map(([name, words], index) => (
            <span key={name}>
              {index > 0 && ' · '}
              <button className="plain" aria-pressed={only === name} onClick={() => set({ only: name })}>
                {words}
              </button>
            </span>
          ))}
        </span>
      </div>
      {isAll ? (
        <All code={code} isShown={isShown} isWhole={kinds.length === 0} />
      ) : (
        <Open code={code} isShown={isShown} isWhole={kinds.length === 0} />
      )}
    </>
  );
}

const owedWords = (balance: string) =>
  isZero(balance)
    ? 'no balance'
    : balance.startsWith('-')
      ? `${currency()} ${figure(balance.slice(1))} customer credit`
      : `${currency()} ${figure(balance)} owed`;

type Shown = {
  code: string;
  isShown: (row: { kind: string }) => boolean;
  /** rows of all kinds are shown: the balance runs through them */
  isWhole: boolean;
};

function Open({ code, isShown, isWhole }: Shown) {
  const { today } = useSession();
  const query = useQuery(openDocumentsQuery(code));
  const open = query.data;
  if (!open) return <Waiting query={query} />;
  const rows = open.rows.filter(isShown);
  return (
    <>
      <p className="situation">
        {owedWords(open.owed)}
        {!isZero(open.toCome) && `; ${currency()} ${figure(open.toCome)} ordered and not billed`}.
        {!open.isAll && ' There is more than fits here: these are the first of each kind.'}
      </p>
      <Table
        caption="Open documents"
        of={rows}
        keyOf={(row) => `${row.kind} ${row.number}`}
        columns={[
          { head: 'Date', className: 'nowrap', cell: (row) => date(row.on) },
          { head: 'Document', className: 'nowrap', cell: (row) => <Document row={row} /> },
          { head: 'State', className: 'nowrap', cell: (row) => Words(row.what) },
          { head: 'Reference', className: 'mono small', cell: (row) => row.reference },
          {
            head: 'Due',
            className: (row) => `nowrap${row.dueOn && row.dueOn < today ? ' error' : ''}`,
            cell: (row) => date(row.dueOn),
          },
          { head: <>To bill {currency()}</>, num: true, cell: (row) => orDash(row.toCome) },
          { head: <>Open {currency()}</>, num: true, cell: (row) => orDash(row.open) },
          isWhole && {
            head: <>Balance {currency()}</>,
            num: true,
            className: 'strong',
            cell: (row) => figure(row.balance),
          },
        ]}
      />
      {rows.length === 0 && <Empty>Nothing is open.</Empty>}
    </>
  );
}

function All({ code, isShown, isWhole }: Shown) {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const to = search.get('to') ?? today;
  const from = search.get('from') ?? monthsBefore(to, 3);
  const query = useInfiniteQuery(documentsQuery(code, from, to));
  const pages = query.data?.pages ?? [];
  const rows = pages.flatMap((page) => page.rows).filter(isShown);
  const number = `${code}|${from}|${to}`;
  return (
    <>
      <div className="row gap-20 aligned-baseline around-4px-0-8px">
        <span className="muted">
          <Days from={from} to={to} onChange={(changed) => setSearch(changed, { replace: true })} />
        </span>
        <span className="grows-1" />
        <PrintButton plain paper="STATEMENT" numbers={[number]}>
          Print statement of account
        </PrintButton>
        <MailButton plain paper="STATEMENT" number={number} />
      </div>
      {!query.data && <Waiting query={query} />}
      {query.data && (
        <>
          {!query.hasNextPage && (
            <p className="situation">
              On {date(to)} {owedWords(pages.at(-1)?.closing ?? '0')}.
            </p>
          )}
          <Table
            caption={`Documents from ${date(from)}`}
            of={rows}
            keyOf={(_, index) => index}
            before={isWhole && <BroughtForward on={from} columns={8} balance={pages[0]?.opening ?? ''} />}
            columns={[
              { head: 'Date', className: 'nowrap', cell: (row) => date(row.on) },
              { head: 'Document', className: 'nowrap', cell: (row) => <Document row={row} /> },
              { head: 'What', cell: (row) => row.what },
              { head: 'Reference', className: 'mono small', cell: (row) => row.reference },
              { head: <>Value {currency()}</>, num: true, className: 'muted', cell: (row) => orDash(row.value) },
              {
                head: <>Debit {currency()}</>,
                num: true,
                cell: (row) => (row.owed.startsWith('-') ? '–' : orDash(row.owed)),
              },
              {
                head: <>Credit {currency()}</>,
                num: true,
                cell: (row) => (row.owed.startsWith('-') ? figure(row.owed.slice(1)) : '–'),
              },
              isWhole && {
                head: <>Balance {currency()}</>,
                num: true,
                className: 'strong',
                cell: (row) => figure(row.balance),
              },
            ]}
          />
          {rows.length === 0 && <Empty>Nothing in these days.</Empty>}
          <More query={query} />
        </>
      )}
    </>
  );
}

type Kinds = Schemas['DocumentLine']['kind'];

/** A document, and the way to all that belongs to it. */
function Document({ row: { kind, number } }: { row: { kind: Kinds; number: string } }) {
  return (
    <>
      <span className="muted small">{Words(kind)}</span> <Doc kind={kind} number={number} />{' '}
      {kind !== 'MANUAL_ENTRY' && kind !== 'ENTRY' && (
        <Link className="small" to={`/trail/${kind}/${number}`} aria-label={`Trail of ${number}`}>
          trail
        </Link>
      )}
    </>
  );
}
