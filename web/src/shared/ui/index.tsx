import { useDebouncedValue } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, NavLink } from 'react-router';
import type { Problem } from '../api/http';
import { figure } from '../format';
import { useOnTheWay } from '../keys';
import { useSession, type Readable } from '../session';
import { ProblemNote } from './ProblemNote';
import { TextLine } from './fields';

export { ReasonDialog } from './ReasonDialog';
export { keepReason, ReasonInput } from './ReasonInput';
export { ProblemNote } from './ProblemNote';

/** A severity or state as a shape, with its word beside it for whoever does not see shapes. */
export function Mark({ of }: { of: string }) {
  const kind = of.toLowerCase();
  return <span className={`mark ${kind}`} role="img" aria-label={kind} title={kind} />;
}

export function Ring({ holds }: { holds: boolean | null }) {
  const kind = holds === null ? 'none' : holds ? '' : 'broken';
  return (
    <span className={`ring ${kind}`} role="img" aria-label={holds === null ? 'not run' : holds ? 'holds' : 'fails'} />
  );
}

const PLACE: Record<string, (number: string) => string> = {
  ORDER: (number) => `/orders/${number}`,
  ENTRY: (number) => `/ledger/journal?entry=${number}`,
  CUSTOMER: (number) => `/customers/${encodeURIComponent(number)}`,
  QUOTE: (number) => `/orders/agreements/${number}`,
  BLANKET_ORDER: (number) => `/orders/agreements/${number}`,
  RECURRING_ORDER: (number) => `/orders/agreements/${number}`,
  CREDIT_NOTE: (number) => `/billing/credit-note/${number}`,
  WRITE_OFF: (number) => `/billing/write-off/${number}`,
  UNEXPECTED_GOODS: () => '/returns/unexpected',
  RETURN: (number) => `/returns/return/${number}`,
  ITEM: (number) => `/items/${encodeURIComponent(number)}`,
};

/** Whether something has a page of its own and no trail. */
export const hasOnlyPage = (kind: string) => kind !== 'ORDER' && kind in PLACE;

/** Where a document is shown: orders on their page, all others on their trail. */
export const placeOf = (kind: string, number: string) =>
  (PLACE[kind] ?? ((n: string) => `/trail/${kind}/${n}`))(number);

/** What one must read to open the page of a document; of what is not named, orders. */
const READS: Record<string, Readable | 'ANYTHING'> = {
  RETURN: 'GOODS',
  UNEXPECTED_GOODS: 'GOODS',
  ITEM: 'ANYTHING',
  CUSTOMER: 'SETTINGS',
  ENTRY: 'BOOKS',
};

/** A document by its number, which opens it for those who may. */
export function Doc({ kind, number }: { kind: string; number: string }) {
  const { reads } = useSession();
  const what = READS[kind] ?? 'SELLING';
  if (what !== 'ANYTHING' && !reads(what)) return <span className="mono">{number}</span>;
  return (
    <Link className="mono" to={placeOf(kind, number)}>
      {number}
    </Link>
  );
}

export const tell = (message: ReactNode) => notifications.show({ message, color: 'sea', withBorder: true });
export const tellProblem = (problem: Problem) =>
  notifications.show({
    message: [problem.message, problem.instead].filter(Boolean).join(' '),
    color: 'red',
    withBorder: true,
    autoClose: 12_000,
  });

export function Empty({ children }: { children: ReactNode }) {
  return <div className="empty">{children}</div>;
}

export function Loading() {
  return (
    <div className="empty" role="status">
      Loading…
    </div>
  );
}

/** What a query shows while it has nothing to show. */
export function Waiting({ query }: { query: { error: Problem | null; refetch: () => unknown } }) {
  useOnTheWay(!query.error);
  if (!query.error) return <Loading />;
  return (
    <div className="inset-22">
      <ProblemNote problem={query.error} />
      <button className="button" onClick={() => query.refetch()}>
        Try again
      </button>
    </div>
  );
}

export function Tabs({ of }: { of: { to: string; label: string; within?: boolean }[] }) {
  return (
    <nav className="tabs">
      {of.map((tab) => (
        <NavLink key={tab.to} to={tab.to} end={!tab.within}>
          {tab.label}
        </NavLink>
      ))}
    </nav>
  );
}

/** What stands under the tab that the address names; an address that names none is told as that. */
export function OfTab({ tab, of }: { tab: string; of: Record<string, ReactNode> }) {
  return Object.hasOwn(of, tab) ? of[tab] : <Empty>This page does not exist.</Empty>;
}

export function Amount({ of, dash }: { of: string | null | undefined; dash?: boolean }) {
  return <>{dash && (!of || Number(of) === 0) ? '–' : figure(of)}</>;
}

/** Narrows a list while one types. */
export function SearchLine({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (to: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const [settled] = useDebouncedValue(typed, 200);
  const last = useRef(value);
  useEffect(() => {
    if (settled !== last.current) {
      last.current = settled;
      onChange(settled);
    }
  }, [settled, onChange]);
  return (
    <TextLine
      className="cell-input wide-260"
      aria-label={label}
      placeholder={label}
      maxLength={80}
      value={typed}
      onChange={setTyped}
    />
  );
}

/** Loads the next page of a list by its cursor. */
export function More({
  query,
}: {
  query: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
}) {
  if (!query.hasNextPage) return null;
  return (
    <div className="inset-12">
      <button className="button" disabled={query.isFetchingNextPage} onClick={() => query.fetchNextPage()}>
        Show more
      </button>
    </div>
  );
}
