import type { Schemas } from '../../shared/api/http';
import type { Rules, Severity } from './api';
import { Count, InSentence, SeverityChoice } from './CheckRules';

const KINDS: [keyof Pick<Rules['po'], 'same' | 'alike' | 'near'>, string, string][] = [
  ['same', 'The same', 'The text of the number is identical.'],
  [
    'alike',
    'Alike',
    'Without spaces, signs, leading zeros, capitals and words like PO or No, both read the same: PO 004417-B and p.o. 4417/b.',
  ],
  [
    'near',
    'One slip away',
    'One character differs and the orders are worth the same, or O and 0, I and 1, S and 5, B and 8 were taken for each other.',
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
        style={{ marginRight: 8, verticalAlign: -2 }}
      />
      {label}
    </label>
  );
  return (
    <div className="two">
      <section>
        <table className="rows">
          <thead>
            <tr>
              <th>A number is</th>
              <th>When</th>
              <th>It is a</th>
            </tr>
          </thead>
          <tbody>
            {KINDS.map(([key, title, when]) => (
              <tr key={key}>
                <td className="nowrap strong">{title}</td>
                <td>{when}</td>
                <td>
                  <SeverityChoice
                    label={title}
                    value={po[key]}
                    of={key === 'near' ? ['CAUTION', 'OFF'] : undefined}
                    disabled={locked}
                    onChange={(to: Severity) => setPo({ [key]: to })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>
          <label>
            <input
              type="checkbox"
              checked={po.required}
              disabled={locked}
              onChange={(event) => setPo({ required: event.target.checked })}
              style={{ marginRight: 8, verticalAlign: -2 }}
            />
            Every order needs a PO number.
          </label>
        </p>
        <p>
          One PO may serve many orders up to €{' '}
          <InSentence
            label="Ceiling of a PO"
            width={90}
            value={po.ceiling}
            disabled={locked}
            onChange={(to) => setPo({ ceiling: to || undefined })}
          />{' '}
          together; left empty, each order needs its own.
        </p>
        <p>
          When somebody who may not let it pass enters such a number{' '}
          <select
            className="bare"
            aria-label="Barred"
            value={po.barred}
            disabled={locked}
            onChange={(event) => setPo({ barred: event.target.value as 'HOLD' | 'REFUSE' })}
          >
            <option value="HOLD">the order is kept and held</option>
            <option value="REFUSE">the number is refused</option>
          </select>
          .
        </p>
        <p className="muted">
          Orders today: <Count count={count} />. A customer can have a policy of its own, on its page.
        </p>
      </section>
      <section>
        <h2>Where one looks</h2>
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
              onChange={(to) => setPlaces({ closedMonths: to as never })}
            />{' '}
            months
          </>,
        )}
        {place('unpostedInvoices', 'what is shipped and not billed')}
        {place('postedInvoices', 'posted invoices')}
        {place('importedHistory', 'invoices from before, taken in from a file')}
        <p className="muted small">
          Cancelled and declined orders never count, nor other orders called off from the same blanket order.
        </p>
      </section>
    </div>
  );
}
