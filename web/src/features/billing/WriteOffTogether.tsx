import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { figure } from '../../shared/format';
import { keepReason, ReasonInput, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { Choice, Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { BatchLog } from '../batch';
import { Outcomes } from '../unwind';
import { POSTED_TO, WRITTEN_OFF, type WrittenOff } from './WriteOff';

const counted = (count: number) => (count === 1 ? 'one invoice' : `${count} invoices`);

/** Writes off all that is open of several invoices with one reason: what would become of each is shown first. */
export function WriteOffTogether({
  invoices,
  onClose,
  onDone,
}: {
  invoices: string[];
  onClose: () => void;
  /** They were written off, and the log looked at. */
  onDone: () => void;
}) {
  const [kind, setKind] = useState<WrittenOff>('SMALL_DIFFERENCE');
  const [reason, setReason] = useState('');
  const saved = useUnsaved(reason !== '');
  const preview = useQuery({
    queryKey: keyOf('billing', 'write-offs-together', kind, ...invoices),
    queryFn: () => answer(client.POST('/api/batches/write-offs/previews', { body: { kind, invoices } })),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
    placeholderData: (before) => before,
  });
  const looked = preview.data?.invoices ?? [];
  const possible = looked.filter((one) => !one.why);
  const write = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/batches/write-offs', {
          body: {
            kind,
            invoices: possible.map(({ invoice, version, amount }) => ({ invoice, version, amount })),
            reason: reason.trim(),
          },
          ...once(),
        }),
      ),
    onSuccess: () => {
      keepReason(reason.trim());
      saved();
    },
  });
  const left = looked.length - possible.length;
  if (write.data) return <BatchLog batch={write.data} onClose={onDone} />;
  return (
    <Dialog size="xl" title={`Write off ${counted(invoices.length)}`} onClose={onClose}>
      <DialogForm
        action={
          possible.length === 0
            ? 'Write off'
            : `Write off ${possible.length === invoices.length ? '' : 'only '}${counted(possible.length)}`
        }
        ready={possible.length > 0 && reason.trim() !== '' && !preview.isPlaceholderData}
        busy={write.isPending}
        problem={write.error}
        onGiven={() => write.mutate()}
        onClose={onClose}
      >
        <div className="fields columns-240px-1fr aligned-end">
          <Field of="write-offs-kind" label="As">
            <Choice id="write-offs-kind" of={WRITTEN_OFF} value={kind} onChange={setKind} />
          </Field>
          <Field of="write-offs-reason" label="Reason for all">
            <ReasonInput id="write-offs-reason" value={reason} onChange={setReason} />
          </Field>
        </div>
        <p className="muted small">{POSTED_TO[kind]}</p>
        {preview.data ? (
          <>
            <p className="situation" role="status">
              {possible.length === 0
                ? 'None of them can be written off like this.'
                : `${currency()} ${figure(preview.data.total)} would be written off, all that is open of ${counted(possible.length)}.`}
              {possible.length > 0 &&
                left > 0 &&
                (left === 1 ? ' One can’t be, and stays.' : ` ${left} can’t be, and stay.`)}
            </p>
            <Outcomes
              kind="INVOICE"
              of={looked.map(({ invoice, why, amount }) => ({
                number: invoice,
                words: 'all that is open',
                why,
                amount,
              }))}
            />
          </>
        ) : (
          <Waiting query={preview} />
        )}
      </DialogForm>
    </Dialog>
  );
}
