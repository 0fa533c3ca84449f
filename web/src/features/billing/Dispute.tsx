import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { usersQuery } from '../../shared/api/users';
import { currency } from '../../shared/currency';
import { date, figure, isZero } from '../../shared/format';
import { useSession } from '../../shared/session';
import { keepReason, Mark, ReasonDialog, ReasonInput, tell } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Choice, Field } from '../../shared/ui/fields';
import { disputesOfQuery } from './api';

type Dispute = Schemas['DisputeView'];

const ENDED: Record<Dispute['state'], string> = {
  OPEN: 'open',
  CREDITED: 'credited',
  WRITTEN_OFF: 'written off',
  PAID: 'paid',
  TAKEN_BACK: 'invoice taken back',
  WITHDRAWN: 'settled',
};

/** What was disputed of an invoice, and what still is; an open one is changed and settled here. */
export function DisputesOf({ invoice }: { invoice: string }) {
  const { may } = useSession();
  const [asking, setAsking] = useState<'change' | 'end' | null>(null);
  const disputes = useQuery(disputesOfQuery(invoice)).data ?? [];
  const open = disputes.find((one) => one.state === 'OPEN');
  const end = useMutation({
    mutationFn: ({ dispute, reason }: { dispute: Dispute; reason: string }) =>
      answer(
        client.POST('/api/disputes/{id}/endings', {
          params: { path: { id: dispute.id } },
          body: { version: dispute.version, reason },
          ...once(),
        }),
      ),
    onSuccess: () => {
      tell(`The dispute of invoice ${invoice} is settled.`);
      setAsking(null);
    },
  });
  if (disputes.length === 0) return null;
  return (
    <>
      {disputes.map((one) => (
        <p key={one.id} className={one.state === 'OPEN' ? '' : 'muted'}>
          {one.state === 'OPEN' && <Mark of="caution" />}
          {one.state === 'OPEN'
            ? `${currency()} ${figure(one.disputed)} disputed`
            : `${one.amount ? `${currency()} ${figure(one.amount)}` : 'All of it'} was disputed`}{' '}
          since {date(one.openedOn)}: {one.reason}.{' '}
          {one.state === 'OPEN'
            ? `${one.owner} looks at it again on ${date(one.lookOn)}.`
            : `Ended on ${date(one.endedOn ?? one.openedOn)}: ${one.endedWhy || ENDED[one.state]}.`}
          {one.state === 'OPEN' && may('BILL') && (
            <span className="nowrap">
              {' '}
              <button className="plain" onClick={() => setAsking('change')}>
                Change
              </button>
              {' · '}
              <button className="plain" onClick={() => setAsking('end')}>
                Settle
              </button>
            </span>
          )}
        </p>
      ))}
      {asking === 'end' && open && (
        <ReasonDialog
          title={`Settle the dispute of invoice ${invoice}`}
          action="Settle"
          busy={end.isPending}
          problem={end.error}
          onClose={() => setAsking(null)}
          onGiven={(reason) => end.mutate({ dispute: open, reason })}
        >
          The invoice is dunned again, and counts as overdue once it is late.
        </ReasonDialog>
      )}
      {asking === 'change' && open && <ChangeDispute dispute={open} onClose={() => setAsking(null)} />}
    </>
  );
}

function Owner({ value, onChange }: { value: string; onChange: (to: string) => void }) {
  const users = useQuery(usersQuery).data ?? [];
  return (
    <Choice id="dispute-owner" value={value} onChange={onChange}>
      {users.map((user) => (
        <option key={user.username} value={user.username}>
          {user.displayName}
        </option>
      ))}
    </Choice>
  );
}

function ChangeDispute({ dispute, onClose }: { dispute: Dispute; onClose: () => void }) {
  const [owner, setOwner] = useState(dispute.owner);
  const [lookOn, setLookOn] = useState(dispute.lookOn);
  const [reason, setReason] = useState('');
  const change = useMutation({
    mutationFn: () =>
      answer(
        client.PUT('/api/disputes/{id}', {
          params: { path: { id: dispute.id } },
          body: { version: dispute.version, owner, lookOn, reason: reason.trim() || undefined },
          ...once(),
        }),
      ),
    onSuccess: () => {
      tell('The dispute is changed.');
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title={`Dispute of invoice ${dispute.invoice}`}>
      <DialogForm
        action="Save"
        busy={change.isPending}
        problem={change.error}
        onGiven={() => change.mutate()}
        onClose={onClose}
      >
        <div className="fields columns-2fr-1fr-1fr">
          <Field of="dispute-owner" label="Owner">
            <Owner value={owner} onChange={setOwner} />
          </Field>
          <Field of="dispute-look" label="Look again on">
            <DayInput id="dispute-look" value={lookOn} onChange={setLookOn} />
          </Field>
        </div>
        <Field of="dispute-remark" label="Remark, optional" className="around-12px-0">
          <ReasonInput id="dispute-remark" value={reason} onChange={setReason} />
        </Field>
      </DialogForm>
    </Dialog>
  );
}

/** Two weeks from a day: when a dispute is looked at again unless somebody says otherwise. */
const inTwoWeeks = (day: string) => {
  const then = new Date(`${day}T00:00:00Z`);
  then.setUTCDate(then.getUTCDate() + 14);
  return then.toISOString().slice(0, 10);
};

/** Marks an invoice, or a part of it, as disputed. */
export function NewDispute({ invoice, onClose }: { invoice: Schemas['InvoiceView']; onClose: () => void }) {
  const { today, username } = useSession();
  const [amount, setAmount] = useState('');
  const [owner, setOwner] = useState(username);
  const [lookOn, setLookOn] = useState(inTwoWeeks(today));
  const [reason, setReason] = useState('');
  const dispute = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/invoices/{number}/disputes', {
          params: { path: { number: invoice.number } },
          body: {
            version: invoice.version,
            amount: isZero(amount) ? undefined : amount,
            owner,
            lookOn,
            reason: reason.trim(),
          },
          ...once(),
        }),
      ),
    onSuccess: (done) => {
      keepReason(reason.trim());
      tell(`${currency()} ${figure(done.disputed)} of invoice ${invoice.number} are disputed.`);
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title={`Dispute of invoice ${invoice.number}`}>
      <DialogForm
        action="Mark as disputed"
        ready={reason.trim() !== ''}
        busy={dispute.isPending}
        problem={dispute.error}
        onGiven={() => dispute.mutate()}
        onClose={onClose}
      >
        <Field of="dispute-reason" label="What the customer does not agree with" className="around-12px-0">
          <ReasonInput id="dispute-reason" value={reason} onChange={setReason} />
        </Field>
        <div className="fields columns-2fr-1fr-1fr">
          <Field of="dispute-owner" label="Owner">
            <Owner value={owner} onChange={setOwner} />
          </Field>
          <Field of="dispute-amount" label={`Amount ${currency()} (empty: all)`}>
            <FigureInput id="dispute-amount" className="" label="Amount" value={amount} onChange={setAmount} />
          </Field>
          <Field of="dispute-look" label="Look again on">
            <DayInput id="dispute-look" value={lookOn} onChange={setLookOn} />
          </Field>
        </div>
        <p className="muted small">
          What is disputed is not dunned. Whether it holds orders as overdue is a rule of the company.
        </p>
      </DialogForm>
    </Dialog>
  );
}
