import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { Field } from '../../shared/ui/fields';
import { CustomerLook } from '../masterdata';

const KINDS = ['ORDER', 'DISPATCH', 'INVOICE', 'RETURN', 'QUOTE', 'BLANKET_ORDER', 'RECURRING_ORDER'] as const;
type Kind = (typeof KINDS)[number];

export const startable = (kind: string): kind is Kind => KINDS.some((one) => one === kind);

/** Starts a draft with the lines of an earlier document, for its customer or another one. */
export function StartFrom({
  kind,
  number,
  customer,
  customerName,
}: {
  kind: Kind;
  number: string;
  customer: string;
  customerName: string;
}) {
  const { may } = useSession();
  const navigate = useGo();
  const [asking, setAsking] = useState(false);
  const [chosen, setChosen] = useState({ code: customer, name: customerName });
  const start = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/orders/started', { body: { kind, number, customer: chosen.code }, ...once() })),
    onSuccess: (order) => {
      tell(`Draft ${order.number} was started from ${number}.`);
      navigate(`/orders/${order.number}/change`);
    },
  });
  if (!may('ENTER')) return null;
  return (
    <>
      <button className="plain nowrap" onClick={() => setAsking(true)}>
        {kind === 'RETURN' ? 'New replacement at no charge' : 'New order from this'}
      </button>
      {asking && (
        <Dialog onClose={() => setAsking(false)} title={`New order from ${number}`}>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              start.mutate();
            }}
          >
            <div className="muted">
              {kind === 'RETURN'
                ? 'Creates a draft at no charge with the returned goods.'
                : 'Creates a draft with the same lines.'}{' '}
              Each line names its source and can be changed or removed.
            </div>
            <Field of="Customer" label="Customer" className="around-12px-0">
              <CustomerLook
                label="Customer"
                autoFocus
                shown={chosen.name}
                onTake={(hit) => setChosen({ code: hit.code, name: hit.name })}
              />
            </Field>
            {chosen.code !== customer && kind !== 'RETURN' && (
              <div className="muted small">Prices stay as they were; the PO number is left empty.</div>
            )}
            <ProblemNote problem={start.error} />
            <div className="row gap-10 above-14">
              <button type="submit" className="button first" disabled={start.isPending}>
                Create the draft
              </button>
              <button type="button" className="button" onClick={() => setAsking(false)}>
                Cancel
              </button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  );
}
