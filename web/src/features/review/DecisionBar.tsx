import '@mantine/core/styles/InlineInput.css';
import '@mantine/core/styles/Checkbox.css';
import { Checkbox } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { isZero, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
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
  const navigate = useGo();
  const [asking, setAsking] = useState<'waive' | 'decline' | 'approvals' | 'send-backs' | 'recalls' | null>(null);
  const { number } = sheet.order;
  const remind = useRemind(sheet);
  const close = () => setAsking(null);
  const decided = () => {
    setAsking(null);
    onDecided?.();
  };
  const clear = () => navigate(`/review/together?orders=${number}`);
  const ask: Record<Action, { name: string; key?: string; do: () => void; title?: string }> = {
    APPROVE: { name: 'Approve', key: 'C', do: () => setAsking('approvals') },
    WAIVE: { name: 'Waive', key: 'W', do: () => setAsking('waive') },
    CLEAR: { name: 'Clear', key: 'C', do: clear, title: 'Shows exposure, stock and quota before and after' },
    SEND_BACK: { name: 'Send back', key: 'S', do: () => setAsking('send-backs') },
    DECLINE: { name: 'Decline', key: 'D', do: () => setAsking('decline') },
    RECALL: { name: 'Recall', do: () => setAsking('recalls') },
    REMIND: {
      name: 'Remind',
      do: () =>
        remind.mutate(undefined, {
          onSuccess: ({ told }) => tell(`Reminded: ${told.join(', ')}.`),
          onError: tellProblem,
        }),
    },
  };
  /** What a key does: an action that is offered and not refused. */
  const allowed = (...actions: Action[]) => {
    const action = actions.find((one) => sheet.actions.some((offered) => offered.action === one && !offered.refused));
    return action && ask[action].do;
  };
  useKeys({
    w: allowed('WAIVE'),
    c: selecting ? undefined : allowed('APPROVE', 'CLEAR', 'WAIVE'),
    s: allowed('SEND_BACK'),
    d: allowed('DECLINE'),
    t: () => navigate(`/trail/ORDER/${number}`),
    u: () => navigate(`/unwind/ORDER/${number}`),
  });
  return (
    <div className="bar">
      {sheet.actions.map(({ action, refused }, at) => (
        <button
          key={action}
          className={at === 0 ? 'button first' : 'button'}
          disabled={!!refused || (action === 'REMIND' && remind.isPending)}
          onClick={ask[action].do}
          title={refused ?? ask[action].title}
        >
          {ask[action].name} {ask[action].key && <kbd>{ask[action].key}</kbd>}
        </button>
      ))}
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

type Action = Sheet['actions'][number]['action'];

type Asking = { sheet: Sheet; onClose: () => void; onDecided: () => void };

function WaiveDialog({ sheet, onClose, onDecided }: Asking) {
  const open = sheet.findings.filter((finding) => finding.state === 'OPEN');
  const [named, setNamed] = useState(open.map((finding) => finding.check));
  const waive = useWaive(sheet);
  return (
    <ReasonDialog
      title={`Waive findings of order ${sheet.order.number}`}
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
  const { may } = useSession();
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
      <button className="button first" disabled={submit.isPending || !may('ENTER')} onClick={() => submit.mutate()}>
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
          disabled={busy || !may('MOVE_GOODS')}
          onClick={() => depart.mutate(dispatch)}
        >
          Send off {dispatch.number}
        </button>
      ))}
      {anyOf('reserved') && (
        <button
          className={staged.length ? 'button' : 'button first'}
          disabled={busy || !may('MOVE_GOODS')}
          onClick={() => stage.mutate()}
        >
          Stage reserved goods
        </button>
      )}
      {anyOf('toBill') && (
        <button className="button" disabled={busy || !may('BILL')} onClick={() => bill.mutate()}>
          Create invoice
        </button>
      )}
    </>
  );
}
