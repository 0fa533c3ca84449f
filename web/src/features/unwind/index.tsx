import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { orDash, trim, Words, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { ProblemNote, tell, Waiting } from '../../shared/ui';
import { refreshAll, sheetQuery } from '../review';

const INTENTS = [
  { code: 'cancel-rest', label: 'Cancel the rest', says: 'What is open is given up; what has left stays.' },
  { code: 'cancel-order', label: 'Cancel the order', says: 'Only while nothing has left and nothing is billed.' },
];

/** What should be undone, the plan for it, before and after, and one button that says what it will do. */
export function UnwindPage() {
  const { number } = useParams();
  const sheet = useQuery(sheetQuery(number!));
  const [intent, setIntent] = useState('cancel-rest');
  const [some, setSome] = useState(false);
  const [quantities, setQuantities] = useState<Record<number, string>>({});
  const [reason, setReason] = useState('');
  const navigate = useNavigate();
  const lines =
    intent === 'cancel-rest' && some
      ? Object.entries(quantities)
          .filter(([, quantity]) => Number(quantity) > 0)
          .map(([line, quantity]) => ({ line: Number(line), quantity }))
      : undefined;
  const undoing = { order: number!, intent, lines, reason: reason.trim() };
  // the plan is shown before a reason is given; carrying it out asks for one
  const [asked] = useDebouncedValue({ ...undoing, reason: undoing.reason || 'not given yet' }, 250);
  const plan = useQuery({
    queryKey: ['plan', asked.order, asked.intent, asked.lines, sheet.data?.order.version],
    queryFn: () => answer(client.POST('/api/unwind/plans', { body: asked })),
    enabled: !!sheet.data && !(some && (asked.lines?.length ?? 0) === 0),
  });
  const carryOut = useMutation({
    mutationFn: () => answer(client.POST('/api/unwind/executions', { body: { ...undoing, fingerprint: plan.data!.fingerprint }, ...once() })),
    onSuccess: (done) => {
      tell(`Done: ${done.words}. It is ${words(done.state)} now.`);
      navigate(`/orders/${number}`);
    },
    onSettled: refreshAll,
  });
  const ready = !!plan.data && !plan.error && undoing.reason !== '' && !carryOut.isPending;
  useKeys({ 'ctrl+enter': ready ? () => carryOut.mutate() : undefined });
  if (!sheet.data) return <Waiting query={sheet} />;
  return (
    <div className="split" style={{ gridTemplateColumns: '300px minmax(0, 1fr)' }}>
      <section className="left" style={{ padding: '14px 20px' }}>
        <h1>Unwind</h1>
        <div className="muted">
          from order{' '}
          <Link className="mono" to={`/orders/${number}`}>
            {number}
          </Link>
          , {sheet.data.order.customerName}
        </div>
        <fieldset style={{ border: 0, padding: 0, margin: '16px 0' }}>
          <legend className="muted small">What should be undone?</legend>
          {INTENTS.map((choice) => (
            <label key={choice.code} style={{ display: 'block', padding: '5px 0' }}>
              <input type="radio" name="intent" checked={intent === choice.code} onChange={() => setIntent(choice.code)} /> {choice.label}
              <div className="muted small" style={{ paddingLeft: 20 }}>
                {choice.says}
              </div>
            </label>
          ))}
        </fieldset>
        {intent === 'cancel-rest' && (
          <fieldset style={{ border: 0, padding: 0, margin: '16px 0' }}>
            <legend className="muted small">How much?</legend>
            <label style={{ display: 'block', padding: '3px 0' }}>
              <input type="radio" name="some" checked={!some} onChange={() => setSome(false)} /> All that is open
            </label>
            <label style={{ display: 'block', padding: '3px 0' }}>
              <input type="radio" name="some" checked={some} onChange={() => setSome(true)} /> Some lines
            </label>
            {some &&
              sheet.data.order.lines.map((line) => (
                <div className="pair" key={line.no} style={{ alignItems: 'center' }}>
                  <span className="small">
                    {line.no} {line.description}
                  </span>
                  <input
                    className="cell-input num"
                    style={{ width: 70, borderBottomColor: 'var(--rule-strong)' }}
                    aria-label={`Quantity of line ${line.no}`}
                    value={quantities[line.no] ?? ''}
                    onChange={(event) => /^\d*\.?\d{0,3}$/.test(event.target.value) && setQuantities({ ...quantities, [line.no]: event.target.value })}
                  />
                </div>
              ))}
          </fieldset>
        )}
        <div className="field">
          <label htmlFor="reason">Reason</label>
          <input id="reason" autoFocus maxLength={2000} value={reason} onChange={(event) => setReason(event.target.value)} />
        </div>
      </section>
      <section className="right page">
        <div className="page-scroll">
          {plan.error ? <ProblemNote problem={plan.error} /> : plan.data ? <PlanSheet plan={plan.data} /> : <p className="muted">{some ? 'Say how much of which line.' : 'Planning…'}</p>}
          <ProblemNote problem={carryOut.error} />
        </div>
        <div className="bar">
          <button className="button first" disabled={!ready} onClick={() => carryOut.mutate()}>
            {plan.data && !plan.error ? Words(plan.data.words).replace(/so-/i, 'SO-') : 'Nothing to carry out'} <kbd>Ctrl ↵</kbd>
          </button>
          <span className="muted small">
            {undoing.reason === '' ? 'Give a reason first. ' : ''}Should the order change before, this is refused and the new plan shown.
          </span>
        </div>
      </section>
    </div>
  );
}

function PlanSheet({ plan }: { plan: Schemas['PlanView'] }) {
  const count = plan.steps.length;
  return (
    <>
      <div className="page-head">
        <h1>{count === 1 ? 'One step, possible now' : `${count} steps, all possible now`}</h1>
      </div>
      <p className="situation">
        The order is {words(plan.stateBefore)} and will be <b>{words(plan.stateAfter)}</b>. Nothing is deleted.
      </p>
      {plan.steps.map((step, index) => (
        <div className="step" key={index}>
          <span className="no">{index + 1}</span>
          <div>
            <b>{Words(step.kind.replaceAll('-', ' '))}</b>
            <div className="muted">{step.sentence}; a controller or the finance lead may do this</div>
          </div>
          <div className="small">
            {step.entries.length === 0 && <span className="muted">posts nothing</span>}
            {step.entries.map((entry) => (
              <div className="pair" key={entry.account}>
                <span>{words(entry.role)}</span>
                <span>{entry.amount}</span>
              </div>
            ))}
          </div>
        </div>
      ))}
      <h2 style={{ margin: '18px 0 6px' }}>Before and after</h2>
      <table className="rows inset">
        <thead>
          <tr>
            <th>Line</th>
            <th />
            {MEASURES.map(([, label]) => (
              <th key={label} className="num">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.lines.map((line) => (
            <LineRows key={line.line} line={line} />
          ))}
        </tbody>
      </table>
    </>
  );
}

const MEASURES: [keyof Schemas['LineMeasures'], string][] = [
  ['cancelled', 'Cancelled'],
  ['reserved', 'Reserved'],
  ['staged', 'Staged'],
  ['dispatched', 'Shipped'],
  ['billed', 'Billed'],
  ['toShip', 'To ship'],
  ['toBill', 'To bill'],
];

function LineRows({ line }: { line: Schemas['LineChange'] }) {
  const shown = (value: string) => (Number(value) === 0 ? orDash(value) : trim(value));
  return (
    <>
      <tr>
        <td rowSpan={2}>
          {line.line} {line.description}
        </td>
        <td className="muted">before</td>
        {MEASURES.map(([measure]) => (
          <td key={measure} className="num">
            {shown(line.before[measure])}
          </td>
        ))}
      </tr>
      <tr>
        <td>after</td>
        {MEASURES.map(([measure]) => {
          const changed = line.before[measure] !== line.after[measure];
          return (
            <td key={measure} className="num" style={changed ? { background: 'var(--sea-tint)', fontWeight: 700 } : undefined}>
              {shown(line.after[measure])}
            </td>
          );
        })}
      </tr>
    </>
  );
}
