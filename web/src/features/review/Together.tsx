import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { figure, trim } from '../../shared/format';
import { useKeys, usePlace } from '../../shared/keys';
import { useGo, useGoBack } from '../../shared/navigation';
import { Empty, keepReason, Mark, ProblemNote, ReasonInput, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { previewQuery, useClear, type Asked } from './api';

type Step = Schemas['Step'];

const MARKS: Record<Step['outcome'], string> = {
  CLEARED: 'settled',
  AWAITING_APPROVAL: 'awaiting',
  HELD: 'stop',
  REFUSED: 'stop',
};
const WORDS: Record<Step['outcome'], [string, string]> = {
  CLEARED: ['will be cleared', 'cleared'],
  AWAITING_APPROVAL: ['will wait for approval', 'waits for approval'],
  HELD: ['stays held', 'stayed held'],
  REFUSED: ['is refused', 'was refused'],
};

/** Several orders cleared in a sequence: what each would do to exposure, stock and quota, seen first and then done. */
export function TogetherPage() {
  const [search, setSearch] = useSearchParams();
  const navigate = useGo();
  const goBack = useGoBack();
  const numbers = (search.get('orders') ?? '').split(',').filter(Boolean);
  const [accepted, setAccepted] = useState<Record<string, string[]>>({});
  const [at, setAt, moves] = usePlace(numbers.length);
  const [reason, setReason] = useState('');
  const asked: Asked[] = numbers.map((number) => ({ number, accepted: accepted[number] ?? [] }));
  const preview = useQuery({
    ...previewQuery(asked),
    placeholderData: (before) => before,
    refetchOnWindowFocus: false,
    staleTime: Infinity,
  });
  const clear = useClear();
  const done = clear.data;
  const forget = useUnsaved(!done && (reason !== '' || Object.keys(accepted).length > 0));
  const shown = done ?? preview.data;
  const order = (to: string[]) => setSearch({ orders: to.join(',') }, { replace: true });
  const move = (from: number, by: number) => {
    const to = from + by;
    const [mine, other] = [numbers[from], numbers[to]];
    if (done || mine === undefined || other === undefined) return;
    const moved = numbers.map((one) => (one === mine ? other : one === other ? mine : one));
    setAt(to);
    order(moved);
  };
  const drop = (which: number) => {
    if (done || numbers.length === 1) return;
    order(numbers.filter((_, index) => index !== which));
  };
  useKeys({
    ...moves,
    'shift+j': () => move(at, 1),
    'shift+k': () => move(at, -1),
    x: () => drop(at),
    enter: () => navigate(done ? '/review' : `/review/${numbers[at]}`),
  });
  if (numbers.length === 0) return <Empty>No orders were selected. Select some in Review with X, then press C.</Empty>;
  if (!shown) return <Waiting query={preview} />;
  const clears = shown.steps.filter(
    (step) => step.outcome === 'CLEARED' || step.outcome === 'AWAITING_APPROVAL',
  ).length;
  const stays = shown.steps.length - clears;
  const carryOut = () => {
    if (!reason.trim() || !preview.data || clear.isPending || preview.isFetching) return;
    keepReason(reason.trim());
    clear.mutate(
      {
        orders: preview.data.steps.map((step) => ({
          number: step.number,
          version: step.version,
          accepted: accepted[step.number] ?? [],
        })),
        reason: reason.trim(),
        fingerprint: preview.data.fingerprint,
      },
      { onError: () => void preview.refetch() },
    );
  };
  const goOn = (count: number) => (count === 1 ? 'one can be cleared' : `${count} can be cleared`);
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            {done ? 'Bulk clearing' : 'Clear together'}:{' '}
            {shown.steps.length === 1 ? 'one order' : `${shown.steps.length} orders`}
          </h1>
          <span className="nowrap">
            {done?.log != null && (
              <>
                <Link to={`/batches/${done.log}`}>Log</Link> ·{' '}
              </>
            )}
            <Link to="/review">Back to Review</Link>
          </span>
        </div>
        <p className="situation">
          {done
            ? `Of ${shown.steps.length}, ${goOn(clears)}${stays > 0 ? `; ${stays} stayed as ${stays === 1 ? 'it was' : 'they were'}, reasons below` : ''}.`
            : `In this sequence ${goOn(clears)}${stays > 0 ? `; ${stays} would stay held` : ''}.${shown.steps.length > 1 ? ' Each order is checked against the exposure, stock and quota left by those before it.' : ''}`}
        </p>
        <Table
          caption="Orders in sequence"
          of={shown.steps}
          keyOf={(step) => step.number}
          rowOf={(_, index) => ({
            className: index === at ? 'at' : '',
            onMouseEnter: () => setAt(index),
            style: { opacity: preview.isFetching && !done ? 0.6 : 1 },
          })}
          columns={[
            { num: true, className: 'muted', cell: (_, index) => index + 1 },
            {
              head: 'Order',
              cell: (step) => (
                <>
                  <Link className="mono" to={`/review/${step.number}`}>
                    {step.number}
                  </Link>
                  <div className="small">{step.customerName}</div>
                </>
              ),
            },
            { head: <>Open {currency()}</>, num: true, cell: (step) => figure(step.openGross) },
            {
              head: 'Outcome',
              cell: (step) => (
                <>
                  <Mark of={MARKS[step.outcome]} />
                  <b>{WORDS[step.outcome][done ? 1 : 0]}</b>
                  <Findings
                    step={step}
                    accepted={accepted[step.number] ?? []}
                    onAccept={
                      done
                        ? undefined
                        : (check, on) =>
                            setAccepted({
                              ...accepted,
                              [step.number]: on
                                ? [...(accepted[step.number] ?? []), check]
                                : (accepted[step.number] ?? []).filter((one) => one !== check),
                            })
                    }
                  />
                </>
              ),
            },
            { head: <>Exposure before {currency()}</>, num: true, cell: (step) => figure(step.exposureBefore) },
            {
              head: 'after',
              num: true,
              className: (step) => (step.exposureAfter !== step.exposureBefore ? 'strong' : ''),
              cell: (step) => figure(step.exposureAfter),
            },
            { head: 'limit', num: true, cell: (step) => (step.limit == null ? 'none' : figure(step.limit)) },
            { head: 'Stock and quota used', className: 'small', cell: (step) => <Used step={step} /> },
            !done &&
              numbers.length > 1 && {
                className: 'nowrap',
                cell: (step, index) => (
                  <>
                    <button
                      className="plain"
                      aria-label={`${step.number} earlier`}
                      disabled={index === 0}
                      onClick={() => move(index, -1)}
                    >
                      ↑
                    </button>{' '}
                    <button
                      className="plain"
                      aria-label={`${step.number} later`}
                      disabled={index === numbers.length - 1}
                      onClick={() => move(index, 1)}
                    >
                      ↓
                    </button>{' '}
                    <button className="plain small" onClick={() => drop(index)}>
                      remove
                    </button>
                  </>
                ),
              },
          ]}
        />
        {!done && numbers.length > 1 && (
          <p className="muted small">
            <kbd>J</kbd> <kbd>K</kbd> choose, <kbd>Shift J</kbd> <kbd>Shift K</kbd> move the chosen one in the sequence,{' '}
            <kbd>X</kbd> removes it.
          </p>
        )}
        <ProblemNote problem={clear.error ?? preview.error} />
      </div>
      {!done && (
        <form
          className="bar"
          onSubmit={(event) => {
            event.preventDefault();
            carryOut();
          }}
        >
          <Field of="together-reason" label="Reason for all orders" className="wide-380">
            <ReasonInput id="together-reason" value={reason} onChange={setReason} autoFocus />
          </Field>
          <button
            type="submit"
            className="button first"
            disabled={!reason.trim() || clear.isPending || preview.isFetching || clears === 0}
          >
            {clears === shown.steps.length
              ? 'Clear as shown'
              : clears === 1
                ? 'Clear one order'
                : `Clear ${clears} orders`}{' '}
            <kbd>↵</kbd>
          </button>
          <button
            type="button"
            className="button"
            onClick={() => {
              forget();
              goBack();
            }}
          >
            Cancel
          </button>
        </form>
      )}
    </div>
  );
}

/** What an order is waived for, and what holds it; what grew by those before it passes only when someone says so. */
function Findings({
  step,
  accepted,
  onAccept,
}: {
  step: Step;
  accepted: string[];
  onAccept?: (check: string, on: boolean) => void;
}) {
  return (
    <>
      {step.findings.map((finding) => (
        <div key={finding.check} className="small">
          {finding.grew && onAccept ? (
            <label>
              <input
                type="checkbox"
                checked={accepted.includes(finding.check)}
                onChange={(event) => onAccept(finding.check, event.target.checked)}
                className="before-6 raised-m2"
              />
              waive as it has grown: {finding.sentence}
            </label>
          ) : (
            <span className={finding.passes ? 'muted' : ''}>
              {finding.passes ? 'waive: ' : finding.grew ? 'has grown: ' : ''}
              {finding.sentence}
            </span>
          )}
        </div>
      ))}
      {(step.outcome === 'REFUSED' || step.outcome === 'AWAITING_APPROVAL' || step.findings.length === 0) && (
        <div className="small muted">{step.sentence}</div>
      )}
    </>
  );
}

/** What an order would take of free stock and of quotas. */
function Used({ step }: { step: Step }) {
  return (
    <>
      {step.stock
        .filter((use) => use.freeBefore !== use.freeAfter)
        .map((use) => (
          <div key={use.item} className="nowrap">
            <span className="mono">{use.item}</span> free {trim(use.freeBefore)} → {trim(use.freeAfter)}
          </div>
        ))}
      {step.quotas.map((use) => (
        <div key={use.item + use.scope + use.key}>
          quota of <span className="mono">{use.item}</span>, {use.scope} {use.key}: {trim(use.usedBefore)} →{' '}
          {trim(use.usedAfter)} of {trim(use.granted)}
        </div>
      ))}
    </>
  );
}
