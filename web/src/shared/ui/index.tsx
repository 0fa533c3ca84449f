import { Modal } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useState, type ReactNode } from 'react';
import { Link, NavLink } from 'react-router';
import type { Problem } from '../api/http';
import { figure } from '../format';

/** A severity or state as a shape, with its word beside it for whoever does not see shapes. */
export function Mark({ of }: { of: string }) {
  const kind = of.toLowerCase();
  return <span className={`mark ${kind}`} role="img" aria-label={kind} title={kind} />;
}

export function Ring({ holds }: { holds: boolean | null }) {
  const kind = holds === null ? 'none' : holds ? '' : 'broken';
  return <span className={`ring ${kind}`} role="img" aria-label={holds === null ? 'not run' : holds ? 'holds' : 'fails'} />;
}

const PLACE: Record<string, (number: string) => string> = {
  ORDER: (number) => `/orders/${number}`,
  ENTRY: (number) => `/ledger/journal?entry=${number}`,
  CUSTOMER: (number) => `/orders?customer=${encodeURIComponent(number)}`,
};

/** Where a document is shown: orders on their page, all others on their trail. */
export const placeOf = (kind: string, number: string) => (PLACE[kind] ?? ((n: string) => `/trail/${kind}/${n}`))(number);

export function Doc({ kind, number }: { kind: string; number: string }) {
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
  const give = () => !busy && !missing && onGiven(reason.trim());
  return (
    <Modal opened onClose={onClose} title={<b>{title}</b>}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          give();
        }}
      >
        {children}
        <div className="field" style={{ margin: '12px 0' }}>
          <label htmlFor="reason">{optional ? 'Remark, if you like' : 'Reason'}</label>
          <input id="reason" data-autofocus value={reason} maxLength={2000} onChange={(event) => setReason(event.target.value)} />
        </div>
        <ProblemNote problem={problem} />
        <div style={{ display: 'flex', gap: 10, marginTop: 14 }}>
          <button type="submit" className="button first" disabled={busy || missing}>
            {action} <kbd>↵</kbd>
          </button>
          <button type="button" className="button" onClick={onClose}>
            Leave it
          </button>
        </div>
      </form>
    </Modal>
  );
}

/** Loads the next page of a list by its cursor. */
export function More({ query }: { query: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown } }) {
  if (!query.hasNextPage) return null;
  return (
    <div style={{ padding: 12 }}>
      <button className="button" disabled={query.isFetchingNextPage} onClick={() => query.fetchNextPage()}>
        Show more
      </button>
    </div>
  );
}
