import { useState, type ReactNode } from 'react';
import type { Problem } from '../api/http';
import { Dialog } from './Dialog';
import { ProblemNote } from './ProblemNote';
import { keepReason, ReasonInput } from './ReasonInput';
import { Field } from './fields';

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
        <Field of="reason" label={optional ? 'Remark, optional' : 'Reason'} className="around-12px-0">
          <ReasonInput id="reason" value={reason} onChange={setReason} />
        </Field>
        <ProblemNote problem={problem} />
        <div className="row gap-10 above-14">
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
