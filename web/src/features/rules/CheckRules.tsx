import type { ReactNode } from 'react';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { wholeOf } from '../../shared/figures';
import { figure, words } from '../../shared/format';
import { Mark } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { type Column, Table } from '../../shared/ui/Table';
import { Choice } from '../../shared/ui/fields';
import type { Rules, Severity } from './api';

const KINDS = ['STANDARD', 'SAMPLE', 'REPLACEMENT', 'DIRECT', 'CALL_OFF'] as const;
const SEVERITIES: Severity[] = ['STOP', 'CAUTION', 'OFF'];
type Entering = 'CLERK' | 'CONTROLLER';

/** What a severity is for a kind of order, to choose from. */
export function SeverityChoice({
  label,
  value,
  of = SEVERITIES,
  disabled,
  onChange,
}: {
  label: string;
  value: Severity;
  of?: Severity[];
  disabled: boolean;
  onChange: (to: Severity) => void;
}) {
  return (
    <span className="nowrap">
      {value === 'OFF' ? <span className="mark" style={{ visibility: 'hidden' }} /> : <Mark of={value} />}
      <Choice className="bare" aria-label={label} value={value} disabled={disabled} onChange={onChange}>
        {of.map((severity) => (
          <option key={severity} value={severity}>
            {severity.toLowerCase()}
          </option>
        ))}
      </Choice>
    </span>
  );
}

/** A figure inside a sentence. */
export function InSentence({
  label,
  value,
  width = 52,
  disabled,
  onChange,
}: {
  label: string;
  value: string | number | null | undefined;
  width?: number;
  disabled: boolean;
  onChange: (to: string) => void;
}) {
  if (disabled) return <b>{value == null || value === '' ? '–' : value}</b>;
  return (
    <FigureInput
      inline
      className="cell-input num in-sentence"
      width={width}
      label={label}
      value={value == null ? '' : String(value)}
      onChange={onChange}
    />
  );
}

/** Every check with its severity for each kind of order, its figures in a sentence, and what it does to the orders in the books. */
export function CheckRules({
  rules,
  counts,
  locked,
  onChange,
}: {
  rules: Rules;
  counts: Schemas['CheckCount'][];
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const { figures } = rules;
  const set = (changed: Partial<typeof figures>) => onChange({ ...rules, figures: { ...figures, ...changed } });
  const upTo = (role: string) => figures.discountUpTo?.find((one) => one.role === role)?.percent ?? '';
  const authority = (role: Entering, percent: string) =>
    set({
      discountUpTo: [
        ...(figures.discountUpTo ?? []).filter((one) => one.role !== role),
        ...(percent.trim() ? [{ role, percent }] : []),
      ],
    });
  const sentences: Record<string, ReactNode> = {
    blocked: 'The customer is blocked.',
    'credit-limit':
      'Unpaid, shipped, cleared and this order together, less deposits and credit, are more than the customer’s limit.',
    overdue: (
      <>
        An invoice is more than{' '}
        <InSentence
          label="Days past due"
          value={figures.overdueDays}
          disabled={locked}
          onChange={(to) => set({ overdueDays: wholeOf(to) })}
        />{' '}
        days past due and above {currency()}{' '}
        <InSentence
          label="Overdue above"
          width={76}
          value={figures.overdueAbove}
          disabled={locked}
          onChange={(to) => set({ overdueAbove: to || undefined })}
        />
        ; a customer can have own limits.
      </>
    ),
    'missing-po': 'The customer requires a PO number and none is given.',
    'zero-price': 'A standard order has a line at zero, or a sample or replacement one above zero.',
    'price-floor': (
      <>
        A price is below the item’s floor, or a discount above what its writer may give: a clerk{' '}
        <InSentence
          label="Discount of a clerk"
          value={upTo('CLERK')}
          disabled={locked}
          onChange={(to) => authority('CLERK', to)}
        />{' '}
        %, a controller{' '}
        <InSentence
          label="Discount of a controller"
          value={upTo('CONTROLLER')}
          disabled={locked}
          onChange={(to) => authority('CONTROLLER', to)}
        />{' '}
        %, the finance lead any.
      </>
    ),
    margin: (
      <>
        A line’s margin is below{' '}
        <InSentence
          label="Minimum margin"
          value={figures.minimumMargin}
          disabled={locked}
          onChange={(to) => set({ minimumMargin: to || undefined })}
        />{' '}
        % of its net.
      </>
    ),
    licence:
      'A regulated item, and the customer’s licence for its class is missing, lapsed, not in the register, or the register gave no answer.',
    quota: 'A rationed item, and the season’s quota of the customer, its region or the seller would be exceeded.',
    unreserved: 'Free stock does not cover the order.',
    dates: 'A line is requested for a past date, or sooner than its lead time.',
    unusual: (
      <>
        Quantity or value scores more than{' '}
        <InSentence
          label="Score"
          value={figures.unusualScore}
          disabled={locked}
          onChange={(to) => set({ unusualScore: to })}
        />{' '}
        against the customer’s own earlier orders (robust z-score, from eight orders on).
      </>
    ),
  };
  return (
    <Table
      caption="Checks"
      of={rules.checks}
      keyOf={(row) => row.check}
      columns={[
        { head: 'Check', className: 'nowrap strong', cell: (row) => row.title },
        { head: 'Condition', cell: (row) => sentences[row.check] },
        ...KINDS.map((kind): Column<Rules['checks'][number]> => ({
          head: words(kind),
          cell: (row) => (
            <SeverityChoice
              label={`${row.title}, ${words(kind)}`}
              value={row.severities[kind] ?? 'OFF'}
              disabled={locked}
              onChange={(to) =>
                onChange({
                  ...rules,
                  checks: rules.checks.map((one) =>
                    one.check === row.check ? { ...one, severities: { ...one.severities, [kind]: to } } : one,
                  ),
                })
              }
            />
          ),
        })),
        {
          head: 'Open orders',
          num: true,
          cell: (row) => <Count count={counts.find((one) => one.check === row.check)} />,
        },
      ]}
    />
  );
}

/** How many open orders a check stops and flags, and how many it would. */
export function Count({ count }: { count: Schemas['CheckCount'] | undefined }) {
  if (!count) return <>–</>;
  const change = (now: number, then: number) =>
    now === then ? figure(String(now)) : `${figure(String(now))} → ${figure(String(then))}`;
  const both = count.stopsNow + count.stopsThen > 0 && count.cautionsNow + count.cautionsThen > 0;
  return (
    <>
      {count.stopsNow + count.stopsThen > 0 && (
        <span className={count.stopsNow !== count.stopsThen ? 'strong nowrap' : 'nowrap'}>
          {change(count.stopsNow, count.stopsThen)} stopped
        </span>
      )}
      {both && <br />}
      {count.cautionsNow + count.cautionsThen > 0 && (
        <span className={count.cautionsNow !== count.cautionsThen ? 'strong nowrap' : 'nowrap'}>
          {change(count.cautionsNow, count.cautionsThen)} flagged
        </span>
      )}
      {count.stopsNow + count.stopsThen + count.cautionsNow + count.cautionsThen === 0 && (
        <span className="muted">none</span>
      )}
    </>
  );
}
