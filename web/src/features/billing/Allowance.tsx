import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { figure, isZero, trim } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { keepReason, ReasonInput, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';

/** Credits lines of an invoice without goods: by quantity or by amount, or all that is left of it. */
export function Allowance({ invoice, onClose }: { invoice: Schemas['InvoiceView']; onClose: () => void }) {
  const navigate = useGo();
  const [shares, setShares] = useState<Record<number, { quantity: string; amount: string }>>({});
  const [reason, setReason] = useState('');
  const saved = useUnsaved(Object.values(shares).some((share) => share.quantity !== '' || share.amount !== ''));
  const left = useQuery({
    queryKey: keyOf('billing', 'left-to-credit', invoice.number),
    queryFn: () => answer(client.GET('/api/credit-notes/left', { params: { query: { invoice: invoice.number } } })),
  }).data;
  const leftOf = (line: number) => left?.lines.find((one) => one.line === line);
  const named = Object.entries(shares).filter(([, share]) => !isZero(share.quantity) || !isZero(share.amount));
  const credit = useMutation({
    mutationFn: (all: boolean) =>
      answer(
        client.POST('/api/credit-notes', {
          body: {
            ofInvoice: invoice.number,
            lines: all
              ? undefined
              : named.map(([line, share]) =>
                  !isZero(share.amount)
                    ? { line: Number(line), amount: share.amount }
                    : { line: Number(line), quantity: share.quantity },
                ),
            reason: reason.trim(),
          },
          ...once(),
        }),
      ),
    onSuccess: (credits) => {
      keepReason(reason.trim());
      tell(`Credited with ${credits.numbers[0]}.`);
      saved();
      navigate(`/billing/credit-note/${credits.numbers[0]}`);
    },
  });
  const set = (line: number, field: 'quantity' | 'amount', value: string) =>
    setShares({ ...shares, [line]: { quantity: '', amount: '', [field]: value } });
  return (
    <Dialog onClose={onClose} size="xl" title={`Credit of invoice ${invoice.number} without goods coming back`}>
      <DialogForm
        action="Credit these lines"
        ready={named.length > 0 && reason.trim() !== ''}
        busy={credit.isPending}
        problem={credit.error}
        also={
          <button
            type="button"
            className="button"
            disabled={!reason.trim() || credit.isPending}
            onClick={() => credit.mutate(true)}
          >
            Credit all that is left
          </button>
        }
        onGiven={() => credit.mutate(false)}
        onClose={onClose}
      >
        <Table
          caption="Lines to credit"
          of={invoice.lines}
          keyOf={(line) => line.no}
          className="inset"
          columns={[
            { head: 'Line', num: true, cell: (line) => line.no },
            { head: 'Item', cell: (line) => line.description },
            {
              head: 'Left to credit',
              num: true,
              cell: (line) => (
                <>
                  {trim(leftOf(line.no)?.quantity ?? '')} of {trim(line.quantity)}
                </>
              ),
            },
            { head: <>net {currency()}</>, num: true, cell: (line) => figure(leftOf(line.no)?.net) },
            {
              head: 'Quantity',
              num: true,
              className: 'wide-120',
              cell: (line) => (
                <FigureInput
                  first={line.no === invoice.lines[0]?.no}
                  label={`Quantity, line ${line.no}`}
                  value={shares[line.no]?.quantity ?? ''}
                  onChange={(to) => set(line.no, 'quantity', to)}
                />
              ),
            },
            {
              head: <>or net amount {currency()}</>,
              num: true,
              className: 'wide-140',
              cell: (line) => (
                <FigureInput
                  label={`Credit an amount, line ${line.no}`}
                  value={shares[line.no]?.amount ?? ''}
                  onChange={(to) => set(line.no, 'amount', to)}
                />
              ),
            },
          ]}
        />
        <Field of="allowance-reason" label="Reason (printed on the credit note)" className="around-12px-0">
          <ReasonInput last id="allowance-reason" value={reason} onChange={setReason} />
        </Field>
      </DialogForm>
    </Dialog>
  );
}
