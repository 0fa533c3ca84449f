import type { Schemas } from '../../shared/api/http';
import { wholeOf } from '../../shared/figures';
import { words } from '../../shared/format';
import { Choice, TextLine } from '../../shared/ui/fields';
import { InSentence } from './CheckRules';
import type { Rules } from './api';

type Field = Schemas['FieldView'];

const ORDER_KINDS: Rules['billedAhead'] = ['STANDARD', 'DIRECT', 'CALL_OFF', 'REPLACEMENT', 'SAMPLE'];
const KINDS: Field['kind'][] = ['TEXT', 'NUMBER', 'DATE', 'LIST'];

/** What the company asks of every order: for which part of it the revenue counts, and fields of its own. */
export function EntryRules({
  rules,
  locked,
  onChange,
}: {
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const { units, fields } = rules.entry;
  const set = (changed: Partial<Rules['entry']>) => onChange({ ...rules, entry: { ...rules.entry, ...changed } });
  const setUnit = (at: number, changed: Partial<Schemas['RevenueUnitView']>) =>
    set({ units: units.map((unit, index) => (index === at ? { ...unit, ...changed } : unit)) });
  const setField = (at: number, changed: Partial<Field>) =>
    set({ fields: fields.map((field, index) => (index === at ? { ...field, ...changed } : field)) });
  const out = (act: () => void) =>
    !locked && (
      <button className="plain small nowrap" onClick={act}>
        remove
      </button>
    );
  return (
    <>
      <h2>Dates and figures</h2>
      <p>
        More than{' '}
        <InSentence
          label="Days back"
          value={rules.daysBack}
          disabled={locked}
          onChange={(to) => onChange({ ...rules, daysBack: wholeOf(to) ?? 0 })}
        />{' '}
        days back, only the finance lead dates a document, with a reason. Decimals are typed after a{' '}
        <Choice
          className="bare"
          aria-label="Decimal mark"
          value={rules.decimalMark}
          disabled={locked}
          onChange={(to) => onChange({ ...rules, decimalMark: to })}
        >
          <option value="POINT">point</option>
          <option value="COMMA">comma</option>
        </Choice>
        ; they are shown after a point.
      </p>
      <h2>Billing ahead</h2>
      <p className="muted">
        Orders of these kinds may be billed before their goods leave; the revenue is deferred until they do.
      </p>
      <div className="row gap-20 below-18">
        {ORDER_KINDS.map((kind) => (
          <label key={kind}>
            <input
              type="checkbox"
              disabled={locked}
              checked={rules.billedAhead.includes(kind)}
              onChange={(event) =>
                onChange({
                  ...rules,
                  billedAhead: event.target.checked
                    ? [...rules.billedAhead, kind]
                    : rules.billedAhead.filter((one) => one !== kind),
                })
              }
            />{' '}
            {words(kind)}
          </label>
        ))}
      </div>
      <h2>Revenue units</h2>
      <p className="muted">
        {units.length === 0 ? 'None.' : 'Every order belongs to one: the first unless another is chosen.'}
      </p>
      <table className="rows inset up-to-560">
        <caption className="unseen">Revenue units</caption>
        <tbody>
          {units.map((unit, at) => (
            <tr key={at}>
              <td className="wide-120">
                <TextLine
                  className="cell-input mono"
                  aria-label={`Code of unit ${at + 1}`}
                  placeholder="code"
                  maxLength={40}
                  value={unit.code}
                  disabled={locked}
                  onChange={(to) => setUnit(at, { code: to })}
                />
              </td>
              <td>
                <TextLine
                  className="cell-input"
                  aria-label={`Name of unit ${at + 1}`}
                  placeholder="name"
                  maxLength={120}
                  value={unit.name}
                  disabled={locked}
                  onChange={(to) => setUnit(at, { name: to })}
                />
              </td>
              <td className="wide-60">{out(() => set({ units: units.filter((_, index) => index !== at) }))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {!locked && (
        <button className="plain small" onClick={() => set({ units: [...units, { code: '', name: '' }] })}>
          + unit
        </button>
      )}
      <h2 className="above-22">Company fields on orders</h2>
      <p className="muted">Every order has them; its dispatches and invoices take over their values.</p>
      <table className="rows inset">
        <caption className="unseen">Company fields on orders</caption>
        <thead>
          <tr>
            <th className="wide-120">Code</th>
            <th className="wide-180">Label</th>
            <th className="wide-90">Takes</th>
            <th>Choices, separated by commas</th>
            <th className="wide-80">Required</th>
            <td className="wide-60" />
          </tr>
        </thead>
        <tbody>
          {fields.map((field, at) => (
            <tr key={at}>
              <td>
                <TextLine
                  className="cell-input mono"
                  aria-label={`Code of field ${at + 1}`}
                  maxLength={40}
                  value={field.code}
                  disabled={locked}
                  onChange={(to) => setField(at, { code: to.toLowerCase() })}
                />
              </td>
              <td>
                <TextLine
                  className="cell-input"
                  aria-label={`Label of field ${at + 1}`}
                  maxLength={80}
                  value={field.label}
                  disabled={locked}
                  onChange={(to) => setField(at, { label: to })}
                />
              </td>
              <td>
                <Choice
                  className="bare"
                  aria-label={`Kind of field ${at + 1}`}
                  value={field.kind}
                  disabled={locked}
                  onChange={(to) => setField(at, { kind: to })}
                >
                  {KINDS.map((kind) => (
                    <option key={kind} value={kind}>
                      {kind.toLowerCase()}
                    </option>
                  ))}
                </Choice>
              </td>
              <td>
                {field.kind === 'LIST' && (
                  <input
                    className="cell-input"
                    aria-label={`Choices of field ${at + 1}`}
                    defaultValue={field.choices?.join(', ')}
                    disabled={locked}
                    onBlur={(event) =>
                      setField(at, {
                        choices: event.target.value
                          .split(',')
                          .map((choice) => choice.trim())
                          .filter(Boolean),
                      })
                    }
                  />
                )}
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`Field ${at + 1} is required`}
                  checked={!!field.required}
                  disabled={locked}
                  onChange={(event) => setField(at, { required: event.target.checked })}
                />
              </td>
              <td>{out(() => set({ fields: fields.filter((_, index) => index !== at) }))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {fields.length === 0 && <p className="muted">None.</p>}
      {!locked && (
        <button
          className="plain small"
          onClick={() =>
            set({ fields: [...fields, { code: '', label: '', kind: 'TEXT', choices: [], required: false }] })
          }
        >
          + field
        </button>
      )}
    </>
  );
}
