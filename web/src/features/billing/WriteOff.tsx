import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { figure, isZero } from '../../shared/format';
import { keepReason, ReasonInput, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Choice, Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';

export const WRITTEN_OFF = [
  ['SMALL_DIFFERENCE', 'Small difference'],
  ['BAD_DEBT', 'Bad debt'],
] as const;
export type WrittenOff = (typeof WRITTEN_OFF)[number][0];

export const POSTED_TO: Record<WrittenOff, string> = {
  BAD_DEBT: 'Posted to bad debt. The VAT of the amount is claimed back where the rules of the company say so.',
  SMALL_DIFFERENCE: 'Posted to payment differences. VAT stays as it is.',
};

/** Writes off what is open of an invoice, or a part of it. */
export function WriteOff({ invoice, onClose }: { invoice: Schemas['InvoiceView']; onClose: () => void }) {
  const [kind, setKind] = useState<WrittenOff>(invoice.small ? 'SMALL_DIFFERENCE' : 'BAD_DEBT');
  const [amount, setAmount] = useState(invoice.open);
  const [reason, setReason] = useState('');
  const saved = useUnsaved(reason !== '' || amount !== invoice.open);
  const write = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/invoices/{number}/write-offs', {
          params: { path: { number: invoice.number } },
          body: { version: invoice.version, kind, amount, reason: reason.trim() },
          ...once(),
        }),
      ),
    onSuccess: (done) => {
      keepReason(reason.trim());
      tell(`${currency()} ${figure(done.amount)} written off with ${done.number}.`);
      saved();
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title={`Write off invoice ${invoice.number}`}>
      <DialogForm
        action="Write off"
        ready={!isZero(amount) && reason.trim() !== ''}
        busy={write.isPending}
        problem={write.error}
        onGiven={() => write.mutate()}
        onClose={onClose}
      >
        <div className="fields columns-2fr-1fr-1fr">
          <Field of="write-off-kind" label="As">
            <Choice id="write-off-kind" of={WRITTEN_OFF} value={kind} onChange={setKind} />
          </Field>
          <Field of="write-off-amount" label={`Amount ${currency()}`}>
            <FigureInput id="write-off-amount" className="" label="Amount" value={amount} onChange={setAmount} />
          </Field>
          <Field of="write-off-open" label={`Open ${currency()}`}>
            <output id="write-off-open" className="inset-6px-2px">
              {figure(invoice.open)}
            </output>
          </Field>
        </div>
        <p className="muted small">{POSTED_TO[kind]}</p>
        <Field of="write-off-reason" label="Reason" className="around-12px-0">
          <ReasonInput id="write-off-reason" value={reason} onChange={setReason} />
        </Field>
      </DialogForm>
    </Dialog>
  );
}
