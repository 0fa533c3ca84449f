import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { figure } from '../../shared/format';
import { keepReason, ReasonInput, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { BatchLog } from '../batch';
import { ReasonChoice } from '../rules';
import { Outcomes } from './Outcomes';
import { stepWords } from './PlanSheet';

type Kind = Schemas['UndoTogether']['kind'];

/** What is undone alike: the intent, and the words for one and many of its documents. */
export type Alike = { kind: Kind; intent: string; one: string; many: string; reason?: string };

const counted = (count: number, of: Alike) => (count === 1 ? `one ${of.one}` : `${count} ${of.many}`);

/** Several documents undone with one reason: what would become of each is shown first, then each is carried out on its own. */
export function UndoTogether({
  of,
  numbers,
  onClose,
  onDone,
}: {
  of: Alike;
  numbers: string[];
  onClose: () => void;
  /** It was carried out, and its log looked at. */
  onDone: () => void;
}) {
  const [chosen, setChosen] = useState(of.reason ?? 'entered-in-error');
  const [text, setText] = useState('');
  const saved = useUnsaved(text !== '');
  const asked = { kind: of.kind, intent: of.intent };
  const preview = useQuery({
    queryKey: keyOf('unwind', 'together', of.intent, ...numbers),
    queryFn: () => answer(client.POST('/api/unwind/together/previews', { body: { ...asked, numbers } })),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  const reasons = useQuery({
    queryKey: keyOf('unwind', 'reasons'),
    queryFn: () => answer(client.GET('/api/unwind/reasons')),
  });
  // the company's own rules may know no such reason
  const reason = reasons.data?.find((one) => one.code === chosen) ?? reasons.data?.[0];
  const reasonCode = reason?.code ?? '';
  const documents = preview.data?.documents ?? [];
  const possible = documents.flatMap(({ number, fingerprint }) => (fingerprint ? [{ number, fingerprint }] : []));
  const carryOut = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/unwind/together/executions', {
          body: {
            ...asked,
            documents: possible,
            reasonCode,
            reason: text.trim() || (reason?.words ?? ''),
          },
          ...once(),
        }),
      ),
    onSuccess: () => {
      keepReason(text.trim());
      saved();
    },
  });
  if (carryOut.data) return <BatchLog batch={carryOut.data} onClose={onDone} />;
  const left = documents.length - possible.length;
  const cancels = of.intent === 'cancel-rest';
  const verb = cancels ? 'Cancel the rest of' : 'Take back';
  return (
    <Dialog size="xl" title={`${verb} ${counted(numbers.length, of)}`} onClose={onClose}>
      <DialogForm
        action={
          possible.length === 0
            ? verb
            : `${verb} ${possible.length === numbers.length ? '' : 'only '}${counted(possible.length, of)}`
        }
        ready={possible.length > 0 && reasonCode !== ''}
        busy={carryOut.isPending}
        problem={carryOut.error}
        onGiven={() => carryOut.mutate()}
        onClose={onClose}
      >
        {preview.data ? (
          <>
            <p className="situation" role="status">
              {possible.length === 0
                ? 'None of them can be unwound like this.'
                : `${currency()} ${figure(preview.data.total)} ${cancels ? 'net would be cancelled' : 'would be taken back'} on ${counted(possible.length, of)}.`}
              {possible.length > 0 && left > 0 && (
                <>
                  {' '}
                  {left === 1
                    ? 'One can’t be unwound like this, and stays.'
                    : `${left} can’t be unwound like this, and stay.`}
                </>
              )}{' '}
              Nothing is deleted.
            </p>
            <Outcomes
              kind={of.kind}
              of={documents.map(({ number, steps, why, amount }) => ({
                number,
                words: steps.map(stepWords).join(', ').toLowerCase(),
                why,
                amount,
              }))}
            />
          </>
        ) : (
          <Waiting query={preview} />
        )}
        <div className="fields columns-240px-1fr aligned-end above-10">
          <ReasonChoice
            id="together-code"
            label="Reason for all"
            value={reasonCode}
            of={reasons.data ?? []}
            onChange={setChosen}
          />
          <Field of="together-remark" label="Remark">
            <ReasonInput id="together-remark" value={text} onChange={setText} />
          </Field>
        </div>
      </DialogForm>
    </Dialog>
  );
}
