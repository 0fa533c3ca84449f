import { Modal } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { may, useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { refreshAll } from '../review';
import { CustomerLook } from './CustomerLook';
import { useGo } from '../../shared/navigation';

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
  const { role } = useSession();
  const navigate = useGo();
  const [asking, setAsking] = useState(false);
  const [chosen, setChosen] = useState({ code: customer, name: customerName });
  const start = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/orders/started', { body: { kind, number, customer: chosen.code }, ...once() })),
    onSuccess: (order) => {
      tell(`Draft ${order.number} was started from ${number}.`);
      refreshAll();
      navigate(`/orders/${order.number}/change`);
    },
  });
  if (!may(role, 'enter')) return null;
  return (
    <>
      <button className="plain nowrap" onClick={() => setAsking(true)}>
        {kind === 'RETURN' ? 'Start a replacement at no charge' : 'Start an order from it'}
      </button>
      {asking && (
        <Modal opened onClose={() => setAsking(false)} title={<b>Start an order from {number}</b>}>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              start.mutate();
            }}
          >
            <div className="muted">
              {kind === 'RETURN' ? 'A draft at no charge with what came back, or may.' : 'A draft with its lines.'} Each
              line says where it came from, and can be changed or taken out.
            </div>
            <div className="field" style={{ margin: '12px 0' }}>
              <label htmlFor="For customer">For customer</label>
              <CustomerLook
                label="For customer"
                autoFocus
                shown={chosen.name}
                onTake={(hit) => setChosen({ code: hit.code, name: hit.name })}
              />
            </div>
            {chosen.code !== customer && kind !== 'RETURN' && (
              <div className="muted small">
                Prices stay as they were; the PO number is theirs to give, so it is left out.
              </div>
            )}
            <ProblemNote problem={start.error} />
            <div style={{ display: 'flex', gap: 10, marginTop: 14 }}>
              <button type="submit" className="button first" disabled={start.isPending}>
                Start the draft
              </button>
              <button type="button" className="button" onClick={() => setAsking(false)}>
                Leave it
              </button>
            </div>
          </form>
        </Modal>
      )}
    </>
  );
}
