import { useState, type ReactNode } from 'react';
import type { Problem } from '../api/http';
import { Dialog } from './Dialog';
import { DialogForm } from './DialogForm';
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
  const give = () => {
    keepReason(reason.trim());
    onGiven(reason.trim());
  };
  return (
    <Dialog onClose={onClose} title={title}>
      <DialogForm
        action={action}
        ready={optional || reason.trim() !== ''}
        busy={busy}
        problem={problem}
        onGiven={give}
        onClose={onClose}
      >
        {children}
        <Field of="reason" label={optional ? 'Remark, optional' : 'Reason'} className="around-12px-0">
          <ReasonInput id="reason" value={reason} onChange={setReason} />
        </Field>
      </DialogForm>
    </Dialog>
  );
}
