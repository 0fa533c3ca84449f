import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { capital, date } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, ReasonDialog, tell, tellProblem } from '../../shared/ui';
import { stepWords } from './PlanSheet';

export type Undone = Schemas['UnwindingView'];

const FOR: Record<string, string> = {
  GOODS: 'the goods to come back',
  INSPECTION: 'the goods to be inspected',
  DECISION: 'another person’s approval',
  PERIOD: 'the period to be reopened',
};

/** What still waits of plans that were carried out in part, with what was done around an order. */
export function ToDo({ order }: { order: string }) {
  const query = useQuery({
    queryKey: keyOf('unwind', 'done', order),
    queryFn: () => answer(client.GET('/api/unwind/done', { params: { query: { order } } })),
  });
  const rows = query.data?.rows ?? [];
  if (rows.length === 0) return null;
  return (
    <section className="below-20">
      <h2>{rows.some((row) => row.state === 'WAITING') ? 'To do' : 'Undone'}</h2>
      {rows.map((row) =>
        row.state === 'WAITING' ? <WaitingPlan key={row.id} plan={row} /> : <Past key={row.id} plan={row} />,
      )}
    </section>
  );
}

function Past({ plan }: { plan: Undone }) {
  return (
    <div className="small inset-3px-0">
      {capital(plan.words)}, {date(plan.on)} by {plan.by}
      {plan.state === 'ABANDONED' && (
        <span className="muted">
          ; the rest was cancelled by {plan.endedBy}: {plan.endedWhy}
        </span>
      )}
    </div>
  );
}

/** A plan with its steps, where it stands, and what can be done with it. */
export function WaitingPlan({ plan }: { plan: Undone }) {
  const { may } = useSession();
  const [giving, setGiving] = useState(false);
  const at = plan.steps.findIndex((step) => step.kind === plan.waitsAt);
  const decide = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/unwind/waiting/{id}/decisions', {
          params: { path: { id: plan.id } },
          body: { version: plan.version },
          ...once(),
        }),
      ),
    onSuccess: (done) => tell(`Agreed: ${done.words}.`),
    onError: tellProblem,
  });
  const abandon = useMutation({
    mutationFn: (reason: string) =>
      answer(
        client.POST('/api/unwind/waiting/{id}/abandonments', {
          params: { path: { id: plan.id } },
          body: { version: plan.version, reason },
          ...once(),
        }),
      ),
    onSuccess: () => {
      tell('The rest of the plan is cancelled; completed steps stay.');
      setGiving(false);
    },
  });
  return (
    <div className="todo">
      <div>
        <b>{capital(plan.words)}</b>
      </div>
      <div className="muted small">
        {plan.reason}; {plan.by}, {date(plan.on)}
      </div>
      <ol>
        {plan.steps.map((step, index) => (
          <li key={index} className={index < at ? 'done' : index === at ? 'next' : ''}>
            {stepWords(step.kind)}
            {index < at
              ? ', done'
              : index === at
                ? `: waits for ${(plan.waitsFor && FOR[plan.waitsFor]) ?? 'something'}`
                : ''}
          </li>
        ))}
      </ol>
      <div className="small">
        {plan.returnNumber && (
          <>
            Return <Doc kind="RETURN" number={plan.returnNumber} />
            {' · '}
          </>
        )}
        {plan.waitsFor === 'DECISION' && may('DECIDE') && (
          <>
            <button className="plain" disabled={decide.isPending} onClick={() => decide.mutate()}>
              Approve the refund
            </button>
            {' · '}
          </>
        )}
        {may('DECIDE') && (
          <button className="plain" onClick={() => setGiving(true)}>
            Cancel the rest…
          </button>
        )}
        {plan.orders.length > 1 && (
          <span className="muted">
            {' '}
            · also order{' '}
            {plan.orders.slice(1).map((order) => (
              <Link key={order} to={`/orders/${order}`}>
                {order}
              </Link>
            ))}
          </span>
        )}
      </div>
      {giving && (
        <ReasonDialog
          title={`Cancel the rest: ${plan.words}`}
          action="Cancel the rest"
          busy={abandon.isPending}
          problem={abandon.error}
          onClose={() => setGiving(false)}
          onGiven={(reason) => abandon.mutate(reason)}
        >
          {plan.returnNumber ? 'No more goods are accepted. ' : ''}Completed steps stay.
        </ReasonDialog>
      )}
    </div>
  );
}
