import { Checkbox } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { isZero, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { may, useSession } from '../../shared/session';
import { Mark, ReasonDialog, tell, tellProblem } from '../../shared/ui';
import { useApprovalStep, useDecline, useRemind, useWaive, type Sheet } from './api';

/**
 * What can be done with an order now: decide on its findings, or take its goods and its bill a step further.
 *
 * @param selecting several orders are selected, and C is theirs
 * @param onDecided the order was decided; where a list stands beside it, the next one is due
 */
export function DecisionBar({
  sheet,
  selecting,
  onDecided,
  children,
}: {
  sheet: Sheet;
  selecting?: boolean;
  onDecided?: () => void;
  children?: ReactNode;
}) {
  const { role, username, standsInFor } = useSession();
  const navigate = useGo();
  const [asking, setAsking] = useState<'waive' | 'decline' | 'approvals' | 'send-backs' | 'recalls' | null>(null);
  const { number, state, author, lastEditor } = sheet.order;
  const open = state === 'DRAFT' ? [] : sheet.findings.filter((finding) => finding.state === 'OPEN');
  const roles = [role, ...standsInFor];
  const decides = roles.some((one) => may(one, 'decide'));
  const canWaive = open.length > 0 && decides;
  const awaiting = state === 'AWAITING_APPROVAL';
  const undecided = state === 'HELD' || awaiting;
  const canDecide = undecided && decides;
  const canApprove = awaiting && !!sheet.approval?.roles.some((one) => roles.includes(one));
  const canRecall = awaiting && (username === author || username === lastEditor);
  const remind = useRemind(sheet);
  const close = () => setAsking(null);
  const decided = () => {
    setAsking(null);
    onDecided?.();
  };
  const clear = () => navigate(`/review/together?orders=${number}`);
  useKeys({
    w: canWaive ? () => setAsking('waive') : undefined,
    c: selecting ? undefined : canApprove ? () => setAsking('approvals') : canWaive ? clear : undefined,
    s: canDecide ? () => setAsking('send-backs') : undefined,
    d: canDecide ? () => setAsking('decline') : undefined,
    t: () => navigate(`/trail/ORDER/${number}`),
    u: () => navigate(`/unwind/ORDER/${number}`),
  });
  return (
    <div className="bar">
      {awaiting && (
        <button
          className="button first"
          disabled={!canApprove}
          onClick={() => setAsking('approvals')}
          title={canApprove ? '' : `For ${sheet.approval?.waitsFor}`}
        >
          Approve <kbd>C</kbd>
        </button>
      )}
      {open.length > 0 && (
        <button
          className={awaiting ? 'button' : 'button first'}
          disabled={!canWaive}
          onClick={() => setAsking('waive')}
          title={canWaive ? '' : 'For a controller'}
        >
          Waive <kbd>W</kbd>
        </button>
      )}
      {state === 'HELD' && decides && (
        <button className="button" onClick={clear} title="Shows exposure, stock and quota before and after">
          Clear <kbd>C</kbd>
        </button>
      )}
      {undecided && (
        <>
          <button className="button" disabled={!canDecide} onClick={() => setAsking('send-backs')}>
            Send back <kbd>S</kbd>
          </button>
          <button className="button" disabled={!canDecide} onClick={() => setAsking('decline')}>
            Decline <kbd>D</kbd>
          </button>
        </>
      )}
      {canRecall && (
        <button className="button" onClick={() => setAsking('recalls')}>
          Recall
        </button>
      )}
      {awaiting && !canApprove && (
        <button
          className="button"
          disabled={remind.isPending}
          onClick={() =>
            remind.mutate(undefined, {
              onSuccess: ({ told }) => tell(`Reminded: ${told.join(', ')}.`),
              onError: tellProblem,
            })
          }
        >
          Remind
        </button>
      )}
      <NextStep sheet={sheet} />
      {children}
      <span className="gap" />
      <button className="plain" onClick={() => navigate(`/trail/ORDER/${number}`)}>
        Trail <kbd>T</kbd>
      </button>
      <button className="plain" onClick={() => navigate(`/unwind/ORDER/${number}`)}>
        Unwind <kbd>U</kbd>
      </button>
      {asking === 'waive' && <WaiveDialog sheet={sheet} onClose={close} onDecided={decided} />}
      {asking === 'decline' && <DeclineDialog sheet={sheet} onClose={close} onDecided={decided} />}
      {asking && asking !== 'waive' && asking !== 'decline' && (
        <StepDialog step={asking} sheet={sheet} onClose={close} onDecided={decided} />
      )}
    </div>
  );
}

type Asking = { sheet: Sheet; onClose: () => void; onDecided: () => void };

function WaiveDialog({ sheet, onClose, onDecided }: Asking) {
  const open = sheet.findings.filter((finding) => finding.state === 'OPEN');
  const [named, setNamed] = useState(open.map((finding) => finding.check));
  const waive = useWaive(sheet);
  return (
    <ReasonDialog
      title={`Waive findings of order ${sheet.order.number} pass`}
      action="Waive"
      busy={waive.isPending || named.length === 0}
      problem={waive.error}
      onClose={onClose}
      onGiven={(reason) =>
        waive.mutate(
          { findings: named, reason },
          {
            onSuccess: (after) => {
              tell(`Order ${after.order.number} is ${words(after.order.state)}.`);
              if (after.order.state === 'HELD') onClose();
              else onDecided();
            },
          },
        )
      }
    >
      {open.map((finding) => (
        <Checkbox
          key={finding.check}
          my={6}
          checked={named.includes(finding.check)}
          onChange={(event) =>
            setNamed(
              event.target.checked ? [...named, finding.check] : named.filter((check) => check !== finding.check),
            )
          }
          label={
            <>
              <Mark of={finding.severity} />
              {finding.title}: {finding.sentence}
            </>
          }
        />
      ))}
    </ReasonDialog>
  );
}

const STEPS = {
  approvals: {
    title: 'Approve order',
    action: 'Approve',
    note: 'The approval covers this content; more, cheaper or other goods need a new one.',
  },
  'send-backs': {
    title: 'Send back order',
    action: 'Send back',
    note: 'The order becomes a draft again; its author sees your reason, changes it and submits it again.',
  },
  recalls: {
    title: 'Recall order',
    action: 'Recall',
    note: 'The order becomes a draft again, to be changed and submitted again.',
  },
};

function StepDialog({ step, sheet, onClose, onDecided }: Asking & { step: keyof typeof STEPS }) {
  const take = useApprovalStep(sheet, step);
  const { title, action, note } = STEPS[step];
  return (
    <ReasonDialog
      title={`${title} ${sheet.order.number}`}
      action={action}
      optional={step === 'approvals'}
      busy={take.isPending}
      problem={take.error}
      onClose={onClose}
      onGiven={(reason) =>
        take.mutate(reason, {
          onSuccess: (order) => {
            tell(
              order.state === 'AWAITING_APPROVAL'
                ? `Order ${order.number} waits for the next level.`
                : `Order ${order.number} is ${words(order.state)}.`,
            );
            onDecided();
          },
        })
      }
    >
      <div className="muted">{note}</div>
    </ReasonDialog>
  );
}

function DeclineDialog({ sheet, onClose, onDecided }: Asking) {
  const decline = useDecline(sheet);
  return (
    <ReasonDialog
      title={`Decline order ${sheet.order.number}`}
      action="Decline"
      busy={decline.isPending}
      problem={decline.error}
      onClose={onClose}
      onGiven={(reason) =>
        decline.mutate(reason, {
          onSuccess: () => {
            tell(`Order ${sheet.order.number} is declined.`);
            onDecided();
          },
        })
      }
    >
      <div className="muted">Its reservations are released. A declined order cannot be reopened.</div>
    </ReasonDialog>
  );
}

/** The next thing that can happen to a cleared order, as a button. */
function NextStep({ sheet }: { sheet: Sheet }) {
  const { role } = useSession();
  const { number, version, state } = sheet.order;
  const done = { onError: tellProblem };
  const stage = useMutation({
    mutationFn: () => answer(client.POST('/api/dispatches', { body: { order: number, version }, ...once() })),
    onSuccess: (dispatch) => tell(`Staged as dispatch ${dispatch.number}.`),
    ...done,
  });
  const depart = useMutation({
    mutationFn: (dispatch: { number: string; version: number }) =>
      answer(
        client.POST('/api/dispatches/{number}/departure', {
          params: { path: { number: dispatch.number } },
          body: { version: dispatch.version },
          ...once(),
        }),
      ),
    onSuccess: (dispatch) => tell(`Dispatch ${dispatch.number} departed.`),
    ...done,
  });
  const bill = useMutation({
    mutationFn: () => answer(client.POST('/api/invoices', { body: { orders: [number] }, ...once() })),
    onSuccess: (invoice) => tell(`Billed as invoice ${invoice.number}.`),
    ...done,
  });
  const submit = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/orders/{number}/submission', { params: { path: { number } }, body: { version }, ...once() }),
      ),
    onSuccess: (order) => tell(`Order ${order.number} is ${words(order.state)}.`),
    ...done,
  });
  const staged = sheet.documents.filter((document) => document.state === 'STAGED');
  const busy = stage.isPending || depart.isPending || bill.isPending;
  const anyOf = (measure: 'reserved' | 'toBill') => sheet.flows.some((flow) => !isZero(flow[measure]));
  if (state === 'DRAFT') {
    return (
      <button
        className="button first"
        disabled={submit.isPending || !may(role, 'enter')}
        onClick={() => submit.mutate()}
      >
        Submit
      </button>
    );
  }
  if (state !== 'CLEARED') return null;
  return (
    <>
      {staged.map((dispatch) => (
        <button
          key={dispatch.number}
          className="button first"
          disabled={busy || !may(role, 'moveGoods')}
          onClick={() => depart.mutate(dispatch)}
        >
          Send off {dispatch.number}
        </button>
      ))}
      {anyOf('reserved') && (
        <button
          className={staged.length ? 'button' : 'button first'}
          disabled={busy || !may(role, 'moveGoods')}
          onClick={() => stage.mutate()}
        >
          Stage reserved goods
        </button>
      )}
      {anyOf('toBill') && (
        <button className="button" disabled={busy || !may(role, 'bill')} onClick={() => bill.mutate()}>
          Create invoice
        </button>
      )}
    </>
  );
}
