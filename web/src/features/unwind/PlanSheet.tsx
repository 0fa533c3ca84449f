import { type ReactNode } from 'react';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { capital, date, figure, isZero, orDash, trim, Words, words } from '../../shared/format';
import { Doc } from '../../shared/ui';
import { type Column, Table } from '../../shared/ui/Table';

type Plan = Schemas['PlanView'];
type Step = Schemas['StepView'];

/** What a plan waits for, as the end of a sentence. */
export const WAITS: Record<string, string> = {
  'receive-goods': 'for the goods to come back',
  'inspect-goods': 'for the goods to be inspected',
  refund: 'for another person’s approval',
  credit: 'for the period to be reopened',
};

/** What a step is called. */
const STEP: Record<string, string> = {
  recall: 'Recall the approval request',
  'release-reservation': 'Release the reservation',
  'void-staged': 'Void the staged dispatch',
  'reverse-dispatch': 'Reverse the dispatch',
  'unallocate-payment': 'Unallocate the payment',
  'unallocate-credit': 'Unallocate the customer credit',
  'unapply-deposit': 'Unapply the deposit',
  'reverse-invoice': 'Reverse the invoice',
  'reverse-credit': 'Reverse the credit note',
  'reverse-write-off': 'Reverse the write-off',
  'reverse-inspection': 'Reverse the inspection',
  'reverse-receipt': 'Reverse the receipt',
  'withdraw-return': 'Withdraw the return',
  'reverse-payment': 'Reverse the payment',
  'reverse-deposit': 'Reverse the deposit',
  'reverse-refund': 'Reverse the refund',
  'authorise-return': 'Authorise the return',
  'receive-goods': 'Receive the goods',
  'inspect-goods': 'Inspect the goods',
  credit: 'Credit the billed goods',
  refund: 'Refund the money',
  'move-to-customer-credit': 'Move the money to customer credit',
  'cancel-quantity': 'Cancel the open quantity',
};

/** A step of a plan in words. */
export const stepWords = (kind: string) => STEP[kind] ?? Words(kind.replaceAll('-', ' '));

const COUNT = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine'];
const counted = (count: number, what: string) => `${COUNT[count] ?? count} ${what}${count === 1 ? '' : 's'}`;

/** A plan as numbered steps with their entries, and everything before and after. */
export function PlanSheet({ plan }: { plan: Plan }) {
  const waits = plan.waitsAt ? plan.steps.findIndex((step) => step.timing !== 'NOW') : plan.steps.length;
  return (
    <>
      <div className="page-head">
        <h2 className="part">
          {plan.waitsAt
            ? waits === 0
              ? `${counted(plan.steps.length, 'step')}; it waits ${WAITS[plan.waitsAt] ?? ''}`
              : `${counted(waits, 'step')} now, then it waits ${WAITS[plan.waitsAt] ?? ''}`
            : `${counted(plan.steps.length, 'step')}, ${plan.steps.length === 1 ? 'possible' : 'all possible'} now`}
        </h2>
      </div>
      <p className="situation">{situation(plan)} Nothing is deleted.</p>
      {plan.steps.map((step, index) => (
        <StepRow key={index} step={step} no={index + 1} later={index >= waits} />
      ))}
      <h2 className="around-18px-0-6px">Before and after</h2>
      <div className="before-after">
        <Lines plan={plan} />
        <div>
          <Accounts plan={plan} />
          <Money plan={plan} />
          <Shelves plan={plan} />
        </div>
      </div>
      {plan.besides.length > 0 && (
        <>
          <h2 className="around-18px-0-6px">What else follows</h2>
          {plan.besides.map((sentence) => (
            <div key={sentence}>{sentence}.</div>
          ))}
        </>
      )}
    </>
  );
}

/** The end in one sentence: what is to be done again, what the customer has. */
function situation(plan: Plan): string {
  const parts: string[] = [];
  for (const state of plan.states) {
    const to = plan.waitsAt ? state.now : state.done;
    parts.push(
      state.before === to
        ? `order ${state.order} stays ${words(to)}`
        : `order ${state.order} is ${words(state.before)} and will be ${words(to)}`,
    );
  }
  for (const money of plan.money.filter((one) => one.kind === 'CUSTOMER')) {
    parts.push(`the customer has ${currency()} ${figure(plan.waitsAt ? money.now : money.done)} credit`);
  }
  return parts.length === 0 ? '' : `${capital(parts.join(', and '))}.`;
}

const WHO: Record<string, string> = {
  CONTROLLER: 'a controller',
  LEAD: 'the finance lead',
  WAREHOUSE: 'the warehouse',
  RECEIVABLES: 'receivables',
  CLERK: 'a clerk',
};

function StepRow({ step, no, later }: { step: Step; no: number; later: boolean }) {
  const when =
    step.timing === 'WAITS'
      ? 'waits for the goods'
      : step.timing === 'SOMEBODY_ELSE'
        ? 'for somebody else'
        : later
          ? 'then continues automatically'
          : 'now';
  return (
    <div className={later ? 'step later' : 'step'}>
      <span className="no">{no}</span>
      <div>
        <b>{stepWords(step.kind)}</b>
        <div>{step.sentence}</div>
        <div className="muted small">
          {when} · {step.by.map((role) => WHO[role] ?? words(role)).join(' or ')} does this
        </div>
      </div>
      <div className="small">
        {step.entries?.length === 0 && <span className="muted">posts nothing</span>}
        {step.entries?.map((entry, index) => (
          <Table
            key={index}
            caption="Entry"
            look="entry"
            of={entry.lines}
            keyOf={(_, at) => at}
            columns={[
              {
                head: (
                  <>
                    {entry.event}, {date(entry.on)}
                  </>
                ),
                cell: (line) => (
                  <>
                    {line.name} <span className="muted mono">{line.account}</span>
                  </>
                ),
              },
              {
                head: 'Debit',
                num: true,
                cell: (line) => (line.amount.startsWith('-') ? '' : figure(line.amount)),
              },
              {
                head: 'Credit',
                num: true,
                cell: (line) => (line.amount.startsWith('-') ? figure(line.amount.slice(1)) : ''),
              },
            ]}
          />
        ))}
      </div>
    </div>
  );
}

type Units = Schemas['UnitsView'];
const MEASURES: [keyof Units, string][] = [
  ['cancelled', 'Cancelled'],
  ['reserved', 'Reserved'],
  ['staged', 'Staged'],
  ['dispatched', 'Shipped'],
  ['returned', 'Returned'],
  ['billed', 'Billed'],
  ['credited', 'Credited'],
  ['toShip', 'To ship'],
  ['toBill', 'To bill'],
];

/** Where the units of a line are at a time, beside the time before it. */
type Stage = { line: Plan['lines'][number]; isFirst: boolean; label: string; units: Units; was: Units };

function Lines({ plan }: { plan: Plan }) {
  // a measure that is nowhere anything but zero only takes room
  const shown = MEASURES.filter(([measure]) =>
    plan.lines.some((line) => [line.before, line.now, line.done].some((units) => !isZero(units[measure]))),
  );
  const rows = plan.lines.filter((line) =>
    shown.some(([m]) => line.before[m] !== line.now[m] || line.now[m] !== line.done[m]),
  );
  const still = plan.lines.length - rows.length;
  const each = plan.waitsAt ? 3 : 2;
  const stages = rows.flatMap((line): Stage[] => [
    { line, isFirst: true, label: 'before', units: line.before, was: line.before },
    { line, isFirst: false, label: plan.waitsAt ? 'now' : 'after', units: line.now, was: line.before },
    ...(plan.waitsAt ? [{ line, isFirst: false, label: 'when done', units: line.done, was: line.now }] : []),
  ]);
  if (plan.lines.length === 0) return <div className="muted">No order line is touched.</div>;
  return (
    <div>
      <Table
        caption="Order lines before and after"
        className="inset"
        of={stages}
        keyOf={({ line, label }) => `${line.order} ${line.line} ${label}`}
        columns={[
          {
            head: 'Order line',
            beside: (stage) => (stage.isFirst ? each : 0),
            cell: ({ line }) => (
              <>
                <span className="mono nowrap">
                  {line.order}/{line.line}
                </span>{' '}
                <span className="small">{line.description}</span>
              </>
            ),
          },
          { className: ({ isFirst }) => (isFirst ? 'muted nowrap' : 'nowrap'), cell: ({ label }) => label },
          ...shown.map(([measure, label]): Column<Stage> => ({
            head: label,
            num: true,
            className: ({ units, was }) => (units[measure] === was[measure] ? '' : 'touched'),
            cell: ({ units }) => (isZero(units[measure]) ? orDash(units[measure]) : trim(units[measure])),
          })),
        ]}
      />
      {still > 0 && (
        <div className="muted small above-4">
          {rows.length === 0
            ? 'No order line changes'
            : `${still} more ${still === 1 ? 'line does' : 'lines do'} not change`}
          .
        </div>
      )}
    </div>
  );
}

/** Figures that change, each before, after what is possible now, and when done. */
function Changes({
  title,
  plan,
  rows,
}: {
  title: string;
  plan: Plan;
  rows: { key: string; name: ReactNode; before: string; now: string; done: string }[];
}) {
  if (rows.length === 0) return null;
  return (
    <Table
      caption={`${title} before and after`}
      className="inset below-14"
      of={rows}
      keyOf={(row) => row.key}
      columns={[
        { head: title, cell: (row) => row.name },
        { head: 'Before', num: true, cell: (row) => orDash(row.before) },
        {
          head: plan.waitsAt ? 'Now' : 'After',
          num: true,
          className: (row) => (row.now === row.before ? '' : 'touched'),
          cell: (row) => orDash(row.now),
        },
        plan.waitsAt && {
          head: 'All done',
          num: true,
          className: (row) => (row.done === row.now ? '' : 'touched'),
          cell: (row) => orDash(row.done),
        },
      ]}
    />
  );
}

function Accounts({ plan }: { plan: Plan }) {
  return (
    <Changes
      title="Account, from these documents"
      plan={plan}
      rows={(plan.accounts ?? []).map((account) => ({
        ...account,
        key: account.role + account.account,
        name: account.name,
      }))}
    />
  );
}

function Money({ plan }: { plan: Plan }) {
  return (
    <Changes
      title="Open, unapplied, credit"
      plan={plan}
      rows={plan.money.map((money) => ({
        ...money,
        key: money.kind + money.number,
        name:
          money.kind === 'CUSTOMER' ? (
            'Customer credit'
          ) : (
            <>
              {Words(money.kind)} <Doc kind={money.kind} number={money.number} />, {money.what}
            </>
          ),
      }))}
    />
  );
}

const SHELF: [keyof Schemas['ShelfFigures'], string][] = [
  ['onHand', 'on hand'],
  ['reserved', 'reserved'],
  ['inspection', 'in inspection'],
  ['value', 'value'],
];

function Shelves({ plan }: { plan: Plan }) {
  const rows = plan.shelves.flatMap((shelf) =>
    SHELF.filter(([measure]) => shelf.done[measure] !== null)
      .map(([measure, label]) => ({
        key: shelf.item + shelf.site + measure,
        name: (
          <>
            <span className="mono">{shelf.item}</span> {shelf.site}, {label}
          </>
        ),
        before: shelf.before?.[measure] ?? '0',
        now: shelf.now?.[measure] ?? '0',
        done: shelf.done[measure] ?? '0',
      }))
      .filter((row) => Number(row.before) !== Number(row.now) || Number(row.now) !== Number(row.done)),
  );
  return (
    <Changes
      title="Stock"
      plan={plan}
      rows={rows.map((row) =>
        row.key.endsWith('value')
          ? row
          : { ...row, before: trim(row.before), now: trim(row.now), done: trim(row.done) },
      )}
    />
  );
}
