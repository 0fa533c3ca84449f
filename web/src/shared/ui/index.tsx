import { useDebouncedValue } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, NavLink } from 'react-router';
import type { Problem } from '../api/http';
import { figure } from '../format';
import { useOnTheWay } from '../keys';
import { reads, useSession } from '../session';
import { Dialog } from './Dialog';

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
  UNEXPECTED_GOODS: () => '/returns/unexpected',
  RETURN: (number) => `/returns/return/${number}`,
  ITEM: (number) => `/items/${encodeURIComponent(number)}`,
};

/** Whether something has a page of its own and no trail. */
export const hasOnlyPage = (kind: string) => kind !== 'ORDER' && kind in PLACE;

/** Where a document is shown: orders on their page, all others on their trail. */
export const placeOf = (kind: string, number: string) =>
  (PLACE[kind] ?? ((n: string) => `/trail/${kind}/${n}`))(number);

/** Who may open the page of a document; of what is not named, whoever reads orders. */
const READERS: Record<string, Parameters<typeof reads>[1]> = {
  RETURN: 'goods',
  UNEXPECTED_GOODS: 'goods',
  ITEM: 'all',
  CUSTOMER: 'settings',
  ENTRY: 'books',
};

/** A document by its number, which opens it for those who may. */
export function Doc({ kind, number }: { kind: string; number: string }) {
  const { role } = useSession();
  if (!reads(role, READERS[kind] ?? 'selling')) return <span className="mono">{number}</span>;
  return (
    <Link className="mono" to={placeOf(kind, number)}>
      {number}
    </Link>
  );
}

export function ProblemNote({ problem }: { problem: Problem | null | undefined }) {
  if (!problem) return null;
  return (
    <div className="problem" role="alert">
      <div>{problem.message}</div>
      {problem.others.map((other) => (
        <div key={other}>{other}</div>
      ))}
      {problem.instead && <div className="muted">{problem.instead}</div>}
    </div>
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
  return <Empty>Loading…</Empty>;
}

/** What a query shows while it has nothing to show. */
export function Waiting({ query }: { query: { error: Problem | null; refetch: () => unknown } }) {
  useOnTheWay(!query.error);
  if (!query.error) return <Loading />;
  return (
    <div style={{ padding: 22 }}>
      <ProblemNote problem={query.error} />
      <button className="button" onClick={() => query.refetch()}>
        Try again
      </button>
    </div>
  );
}

export function Tabs({ of }: { of: { to: string; label: string }[] }) {
  return (
    <nav className="tabs">
      {of.map((tab) => (
        <NavLink key={tab.to} to={tab.to} end>
          {tab.label}
        </NavLink>
      ))}
    </nav>
  );
}

export function Amount({ of, dash }: { of: string | null | undefined; dash?: boolean }) {
  return <>{dash && (!of || Number(of) === 0) ? '–' : figure(of)}</>;
}

/** Reasons that were given since the page was opened: they are offered again, since many cases are alike. */
const given: string[] = [];

/** A line for a reason, with those given before to choose from. */
export function ReasonInput({
  id,
  value,
  autoFocus,
  last,
  onChange,
}: {
  id: string;
  value: string;
  autoFocus?: boolean;
  last?: boolean;
  onChange: (to: string) => void;
}) {
  return (
    <>
      <input
        id={id}
        data-autofocus={!last || undefined}
        autoFocus={autoFocus}
        list={`${id}-given`}
        autoComplete="off"
        value={value}
        maxLength={2000}
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={`${id}-given`}>
        {given.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </>
  );
}

/** Keeps a reason to be offered again. */
export const keepReason = (reason: string) => {
  if (reason && !given.includes(reason)) given.unshift(reason);
  given.splice(8);
};

/** Asks for a reason, or a remark that may be left out, before something is done. */
export function ReasonDialog({
  title,
  action,
  optional = false,
  busy,
  problem,
  children,
  onClose,
  onGiven,
}: {
  title: string;
  action: string;
  optional?: boolean;
  busy: boolean;
  problem: Problem | null;
  children?: ReactNode;
  onClose: () => void;
  onGiven: (reason: string) => void;
}) {
  const [reason, setReason] = useState('');
  const missing = !optional && !reason.trim();
  const give = () => {
    if (busy || missing) return;
    keepReason(reason.trim());
    onGiven(reason.trim());
  };
  return (
    <Dialog onClose={onClose} title={title}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          give();
        }}
      >
        {children}
        <div className="field" style={{ margin: '12px 0' }}>
          <label htmlFor="reason">{optional ? 'Remark, optional' : 'Reason'}</label>
          <ReasonInput id="reason" value={reason} onChange={setReason} />
        </div>
        <ProblemNote problem={problem} />
        <div style={{ display: 'flex', gap: 10, marginTop: 14 }}>
          <button type="submit" className="button first" disabled={busy || missing}>
            {action} <kbd>↵</kbd>
          </button>
          <button type="button" className="button" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
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
    <input
      className="cell-input"
      style={{ width: 260 }}
      aria-label={label}
      placeholder={label}
      maxLength={80}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
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
    <div style={{ padding: 12 }}>
      <button className="button" disabled={query.isFetchingNextPage} onClick={() => query.fetchNextPage()}>
        Show more
      </button>
    </div>
  );
}
