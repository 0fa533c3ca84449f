import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, isZero } from '../../shared/format';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, Empty, ProblemNote, ReasonDialog, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { Table } from '../../shared/ui/Table';
import { creditNoteQuery, openInvoicesQuery } from './api';

/** What a credit note was put to, and what becomes of the rest: kept, refunded, or set to another invoice. */
export function Settle({ number, own }: { number: string; own?: boolean }) {
  const { may } = useSession();
  const credit = useQuery(creditNoteQuery(number)).data;
  const [asking, setAsking] = useState<'refund' | 'apply' | null>(null);
  const refund = useMutation({
    mutationFn: (reason: string) =>
      answer(
        client.POST('/api/refunds', {
          body: { of: number, version: present(credit, 'the credit note').version, reason },
          ...once(),
        }),
      ),
    onSuccess: (given) => {
      tell(
        given.payout ? `Refund ${given.number} is sent to the payment service.` : `Refund ${given.number} is posted.`,
      );
      setAsking(null);
    },
  });
  const wish = useMutation({
    mutationFn: (to: 'KEEP' | 'REFUND' | undefined) =>
      answer(
        client.PUT('/api/credit-notes/{number}/wish', { params: { path: { number } }, body: { wish: to }, ...once() }),
      ),
  });
  if (!credit) return null;
  const left = !isZero(credit.left);
  return (
    <div className="below-10">
      <div hidden={own}>
        <Doc kind="CREDIT_NOTE" number={number} /> of {date(credit.on)}: {currency()} {figure(credit.gross)} of invoice{' '}
        <Doc kind="INVOICE" number={credit.invoice} />
      </div>
      {credit.uses.map((use) => (
        <div key={use.kind + use.number} className="small">
          {currency()} {figure(use.amount)} {use.kind === 'REFUND' ? 'refunded' : 'applied to invoice'}{' '}
          <Doc kind={use.kind} number={use.number} /> on {date(use.on)}
        </div>
      ))}
      {left && (
        <div className="small">
          <b>
            {currency()} {figure(credit.left)}
          </b>{' '}
          {credit.wish === 'KEEP'
            ? 'kept as customer credit'
            : credit.wish === 'REFUND'
              ? 'to be refunded'
              : 'customer credit, not yet settled'}
        </div>
      )}
      {left && may('BILL') && (
        <div style={{ display: 'flex', gap: 10, marginTop: 4, flexWrap: 'wrap' }}>
          <button className="button" onClick={() => setAsking('refund')}>
            Refund
          </button>
          <button className="button" onClick={() => setAsking('apply')}>
            Apply to another invoice
          </button>
          {credit.wish !== 'KEEP' && (
            <button className="plain" disabled={wish.isPending} onClick={() => wish.mutate('KEEP')}>
              Keep as credit
            </button>
          )}
          {credit.wish !== 'REFUND' && (
            <button className="plain" disabled={wish.isPending} onClick={() => wish.mutate('REFUND')}>
              Refund later
            </button>
          )}
        </div>
      )}
      <ProblemNote problem={wish.error} />
      {asking === 'refund' && (
        <ReasonDialog
          title={`Refund ${currency()} ${figure(credit.left)}`}
          action="Refund"
          busy={refund.isPending}
          problem={refund.error}
          onClose={() => setAsking(null)}
          onGiven={refund.mutate}
        >
          Paid to {credit.customerName}.
        </ReasonDialog>
      )}
      {asking === 'apply' && <Apply credit={credit} onClose={() => setAsking(null)} />}
    </div>
  );
}

function Apply({
  credit,
  onClose,
}: {
  credit: { number: string; customer: string; customerName: string; left: string };
  onClose: () => void;
}) {
  const open = useInfiniteQuery(openInvoicesQuery(credit.customer));
  const rows = open.data?.pages.flatMap((page) => page.rows) ?? [];
  const apply = useMutation({
    mutationFn: (invoice: string) =>
      answer(
        client.POST('/api/credit-allocations', {
          // as much as is open, and there is credit for
          body: { customer: credit.customer, of: credit.number, allocate: [{ invoice }] },
          ...once(),
        }),
      ),
    onSuccess: (_, invoice) => {
      tell(`Credit of ${credit.number} is applied to ${invoice}.`);
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title={`Set ${currency()} ${figure(credit.left)} to another invoice`}>
      {open.data && rows.length === 0 && <Empty>{credit.customerName} has no open invoice.</Empty>}
      <Table
        caption="Open invoices"
        of={rows}
        keyOf={(row) => row.number}
        className="inset"
        isUnheaded
        columns={[
          { className: 'mono nowrap', cell: (row) => row.number },
          { className: 'nowrap', cell: (row) => <>due {date(row.dueOn)}</> },
          { num: true, cell: (row) => <>{figure(row.open)} open</> },
          {
            cell: (row) => (
              <button className="button" disabled={apply.isPending} onClick={() => apply.mutate(row.number)}>
                This one
              </button>
            ),
          },
        ]}
      />
      <ProblemNote problem={apply.error} />
    </Dialog>
  );
}
