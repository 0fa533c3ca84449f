import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { wholeOf } from '../../shared/figures';
import { Table } from '../../shared/ui/Table';
import { Choice } from '../../shared/ui/fields';
import { Count, InSentence, SeverityChoice } from './CheckRules';
import type { Rules, Severity } from './api';

const KINDS: [keyof Pick<Rules['po'], 'same' | 'alike' | 'near'>, string, string][] = [
  ['same', 'The same', 'The numbers are identical.'],
  [
    'alike',
    'Alike',
    'Identical without spaces, signs, leading zeros, capitals and words like PO or No: PO 004417-B and p.o. 4417/b.',
  ],
  [
    'near',
    'Near match',
    'One character differs and the orders have the same value, or O and 0, I and 1, S and 5, B and 8 are confused.',
  ],
];

/** What a PO number that was met before means, and where one looks for it. */
export function PoRules({
  rules,
  count,
  locked,
  onChange,
}: {
  rules: Rules;
  count: Schemas['CheckCount'] | undefined;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const { po, places } = rules;
  const setPo = (changed: Partial<typeof po>) => onChange({ ...rules, po: { ...po, ...changed } });
  const setPlaces = (changed: Partial<typeof places>) => onChange({ ...rules, places: { ...places, ...changed } });
  const place = (key: keyof Omit<typeof places, 'closedMonths'>, label: React.ReactNode) => (
    <label style={{ display: 'block', padding: '3px 0' }}>
      <input
        type="checkbox"
        checked={places[key]}
        disabled={locked}
        onChange={(event) => setPlaces({ [key]: event.target.checked })}
        className="before-8 raised-m2"
      />
      {label}
    </label>
  );
  return (
    <div className="two">
      <section>
        <Table
          caption="Matches of PO numbers"
          of={KINDS}
          keyOf={([key]) => key}
          columns={[
            { head: 'Match', className: 'nowrap strong', cell: ([, title]) => title },
            { head: 'When', cell: ([, , when]) => when },
            {
              head: 'Severity',
              cell: ([key, title]) => (
                <SeverityChoice
                  label={title}
                  value={po[key]}
                  of={key === 'near' ? ['CAUTION', 'OFF'] : undefined}
                  disabled={locked}
                  onChange={(to: Severity) => setPo({ [key]: to })}
                />
              ),
            },
          ]}
        />
        <p>
          <label>
            <input
              type="checkbox"
              checked={po.required}
              disabled={locked}
              onChange={(event) => setPo({ required: event.target.checked })}
              className="before-8 raised-m2"
            />
            Every order needs a PO number.
          </label>
        </p>
        <p>
          One PO covers several orders up to {currency()}{' '}
          <InSentence
            label="Ceiling of a PO"
            width={90}
            value={po.ceiling}
            disabled={locked}
            onChange={(to) => setPo({ ceiling: to || undefined })}
          />{' '}
          together (empty: each order needs its own).
        </p>
        <p>
          When a user who may not waive it enters such a number{' '}
          <Choice
            className="bare"
            aria-label="Barred"
            value={po.barred}
            disabled={locked}
            onChange={(to) => setPo({ barred: to })}
          >
            <option value="HOLD">hold the order</option>
            <option value="REFUSE">refuse the number</option>
          </Choice>
          .
        </p>
        <p className="muted">
          Open orders: <Count count={count} />. A customer can have an own policy on the customer page.
        </p>
      </section>
      <section>
        <h2>Search in</h2>
        {place('openOrders', 'open orders')}
        {place(
          'closedOrders',
          <>
            closed orders of the last{' '}
            <InSentence
              label="Months"
              width={36}
              value={places.closedMonths}
              disabled={locked}
              onChange={(to) => setPlaces({ closedMonths: wholeOf(to) })}
            />{' '}
            months
          </>,
        )}
        {place('unpostedInvoices', 'shipped, not billed')}
        {place('postedInvoices', 'posted invoices')}
        {place('importedHistory', 'imported past invoices')}
        <p className="muted small">
          Cancelled and declined orders do not count, nor other call-offs of the same blanket order.
        </p>
      </section>
    </div>
  );
}
