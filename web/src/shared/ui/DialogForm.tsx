import type { ReactNode } from 'react';
import type { Problem } from '../api/http';
import { ProblemNote } from './ProblemNote';

/** What a dialog asks for, with why the command was refused and the buttons that give it or leave; Enter gives it. */
export function DialogForm({
  action,
  ready = true,
  busy,
  problem,
  also,
  children,
  onGiven,
  onClose,
}: {
  action: string;
  /** All that is needed has been written. */
  ready?: boolean;
  busy: boolean;
  problem: Problem | null;
  /** Another button beside the first. */
  also?: ReactNode;
  children: ReactNode;
  onGiven: () => void;
  onClose: () => void;
}) {
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready && !busy) onGiven();
      }}
    >
      {children}
      <ProblemNote problem={problem} />
      <div className="row gap-10 above-14">
        <button type="submit" className="button first" disabled={!ready || busy}>
          {action} <kbd>↵</kbd>
        </button>
        {also}
        <button type="button" className="button" onClick={onClose}>
          Cancel
        </button>
      </div>
    </form>
  );
}
