import type { Schemas } from '../../shared/api/http';
import { wholeOf } from '../../shared/figures';
import { words } from '../../shared/format';
import { Table } from '../../shared/ui/Table';
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
      <Table
        caption="Revenue units"
        of={units}
        keyOf={(_, at) => at}
        className="inset up-to-560"
        isUnheaded
        columns={[
          {
            className: 'wide-120',
            cell: (unit, at) => (
              <TextLine
                className="cell-input mono"
                aria-label={`Code of unit ${at + 1}`}
                placeholder="code"
                maxLength={40}
                value={unit.code}
                disabled={locked}
                onChange={(to) => setUnit(at, { code: to })}
              />
            ),
          },
          {
            cell: (unit, at) => (
              <TextLine
                className="cell-input"
                aria-label={`Name of unit ${at + 1}`}
                placeholder="name"
                maxLength={120}
                value={unit.name}
                disabled={locked}
                onChange={(to) => setUnit(at, { name: to })}
              />
            ),
          },
          {
            className: 'wide-60',
            cell: (_, at) => out(() => set({ units: units.filter((_, index) => index !== at) })),
          },
        ]}
      />
      {!locked && (
        <button className="plain small" onClick={() => set({ units: [...units, { code: '', name: '' }] })}>
          + unit
        </button>
      )}
      <h2 className="above-22">Company fields on orders</h2>
      <p className="muted">Every order has them; its dispatches and invoices take over their values.</p>
      <Table
        caption="Company fields on orders"
        of={fields}
        keyOf={(_, at) => at}
        className="inset"
        columns={[
          {
            head: 'Code',
            width: 'wide-120',
            cell: (field, at) => (
              <TextLine
                className="cell-input mono"
                aria-label={`Code of field ${at + 1}`}
                maxLength={40}
                value={field.code}
                disabled={locked}
                onChange={(to) => setField(at, { code: to.toLowerCase() })}
              />
            ),
          },
          {
            head: 'Label',
            width: 'wide-180',
            cell: (field, at) => (
              <TextLine
                className="cell-input"
                aria-label={`Label of field ${at + 1}`}
                maxLength={80}
                value={field.label}
                disabled={locked}
                onChange={(to) => setField(at, { label: to })}
              />
            ),
          },
          {
            head: 'Takes',
            width: 'wide-90',
            cell: (field, at) => (
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
            ),
          },
          {
            head: 'Choices, separated by commas',
            cell: (field, at) =>
              field.kind === 'LIST' && (
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
              ),
          },
          {
            head: 'Required',
            width: 'wide-80',
            cell: (field, at) => (
              <input
                type="checkbox"
                aria-label={`Field ${at + 1} is required`}
                checked={!!field.required}
                disabled={locked}
                onChange={(event) => setField(at, { required: event.target.checked })}
              />
            ),
          },
          {
            width: 'wide-60',
            cell: (_, at) => out(() => set({ fields: fields.filter((_, index) => index !== at) })),
          },
        ]}
      />
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
