import { useState } from 'react';
import { DayInput } from '../ui/DayInput';
import { Dialog } from '../ui/Dialog';
import { DialogForm } from '../ui/DialogForm';
import { FigureInput } from '../ui/FigureInput';
import { LookAhead } from '../ui/LookAhead';
import { Choice, Field, TextLine } from '../ui/fields';
import { offered, type Column } from './api';
import { useMonths } from './months';

/** Days told from today on; those with a number of days have it asked for. */
const SPANS = [
  ['today', 'today'],
  ['yesterday', 'yesterday'],
  ['before-today', 'before today'],
  ['after-today', 'after today'],
  ['last', 'in the last days'],
  ['next', 'in the next days'],
  ['this-week', 'this week'],
  ['month', 'in the month'],
  ['this-month', 'this month'],
  ['last-month', 'last month'],
  ['this-year', 'this year'],
  ['between', 'from one day to another'],
] as const;

type Span = (typeof SPANS)[number][0];

/** At the end of which day; a month and a day are asked for. */
const ENDS = [
  ['last-month', 'the end of last month'],
  ['month', 'the end of the month'],
  ['yesterday', 'yesterday'],
  ['day', 'the day'],
] as const;

/** What is said of a column, as it is written in addresses; empty until it is whole. */
type Said = { onSaid: (operand: string) => void };

/** How a text is compared. */
const COMPARED = [
  ['starts', 'begins with'],
  ['has', 'has'],
  ['is', 'is'],
] as const;

function Text({ onSaid }: Said) {
  const [compared, setCompared] = useState<(typeof COMPARED)[number][0]>('starts');
  const [text, setText] = useState('');
  const say = (how: typeof compared, to: string) => {
    setCompared(how);
    setText(to);
    onSaid(to.trim() && `${how}:${to.trim()}`);
  };
  return (
    <div className="row gap-10">
      <Field of="filter-compared" label="how">
        <Choice
          id="filter-compared"
          className="cell-input"
          of={COMPARED}
          value={compared}
          onChange={(to) => say(to, text)}
        />
      </Field>
      <Field of="filter-text" label="text">
        <TextLine
          id="filter-text"
          className="cell-input wide-260"
          maxLength={80}
          value={text}
          onChange={(to) => say(compared, to)}
        />
      </Field>
    </div>
  );
}

const between = (from: string, to: string) => (from || to) && `between:${from}..${to}`;

type Given = { value: string; onChange: (to: string) => void };

function Month({ of, value, onChange }: Given & { of: [string, string][] }) {
  return (
    <Field of="filter-month" label="month">
      <Choice id="filter-month" className="cell-input" of={of} value={value} onChange={onChange} />
    </Field>
  );
}

function Day({ label, value, onChange }: Given & { label: string }) {
  return (
    <Field of={`filter-${label}`} label={label}>
      <DayInput id={`filter-${label}`} optional className="cell-input wide-130" value={value} onChange={onChange} />
    </Field>
  );
}

function Days({ onSaid }: Said) {
  const [span, setSpan] = useState<Span>('today');
  const [count, setCount] = useState('3');
  const [days, setDays] = useState({ from: '', to: '' });
  const months = useMonths();
  const [month, setMonth] = useState(months[0]?.[0] ?? '');
  const say = (to: Span, n: string, { from, to: until }: typeof days, of = month) => {
    setSpan(to);
    setCount(n);
    setDays({ from, to: until });
    setMonth(of);
    if (to === 'between') onSaid(between(from, until));
    else if (to === 'month') onSaid(`in:${of}`);
    else onSaid(to === 'last' || to === 'next' ? n && `in:${to}-${n}-days` : `in:${to}`);
  };
  return (
    <div className="row gap-10">
      <Field of="filter-span" label="is">
        <Choice
          id="filter-span"
          className="cell-input"
          of={SPANS}
          value={span}
          onChange={(to) => say(to, count, days)}
        />
      </Field>
      {(span === 'last' || span === 'next') && (
        <Field of="filter-count" label="how many days, today counted in">
          <FigureInput id="filter-count" width={70} value={count} onChange={(to) => say(span, to, days)} />
        </Field>
      )}
      {span === 'month' && <Month of={months} value={month} onChange={(to) => say(span, count, days, to)} />}
      {span === 'between' &&
        (['from', 'to'] as const).map((end) => (
          <Day key={end} label={end} value={days[end]} onChange={(day) => say(span, count, { ...days, [end]: day })} />
        ))}
    </div>
  );
}

function AsOf({ onSaid }: Said) {
  const [end, setEnd] = useState<(typeof ENDS)[number][0]>('last-month');
  const [day, setDay] = useState('');
  const [, ...months] = useMonths();
  const [month, setMonth] = useState(months[0]?.[0] ?? '');
  const say = (to: typeof end, on: string, of: string) => {
    setEnd(to);
    setDay(on);
    setMonth(of);
    const said = { month: of, day: on, yesterday: to, 'last-month': to }[to];
    onSaid(said && `at:${said}`);
  };
  return (
    <div className="row gap-10">
      <Field of="filter-end" label="as of">
        <Choice id="filter-end" className="cell-input" of={ENDS} value={end} onChange={(to) => say(to, day, month)} />
      </Field>
      {end === 'month' && <Month of={months} value={month} onChange={(to) => say(end, day, to)} />}
      {end === 'day' && <Day label="day" value={day} onChange={(to) => say(end, to, month)} />}
    </div>
  );
}

function Figures({ onSaid }: Said) {
  const [ends, setEnds] = useState({ from: '', to: '' });
  return (
    <div className="row gap-10">
      {(['from', 'to'] as const).map((end) => (
        <Field key={end} of={`filter-${end}`} label={end === 'from' ? 'at least' : 'at most'}>
          <FigureInput
            id={`filter-${end}`}
            signed
            width={130}
            value={ends[end]}
            onChange={(to) => {
              const changed = { ...ends, [end]: to };
              setEnds(changed);
              onSaid(between(changed.from, changed.to));
            }}
          />
        </Field>
      ))}
    </div>
  );
}

function Flag({ onSaid }: Said) {
  const [value, setValue] = useState('');
  return (
    <Choice
      label="Yes or no"
      className="cell-input"
      value={value}
      onChange={(to) => {
        setValue(to);
        onSaid(to && `any:${to}`);
      }}
    >
      <option value="">yes or no</option>
      <option value="YES">yes</option>
      <option value="NO">no</option>
    </Choice>
  );
}

const ANY_OR_NONE = [
  ['any', 'is one of these'],
  ['none', 'is none of these'],
] as const;

function Among({ list, column, onSaid }: Said & { list: string; column: Column }) {
  const [how, setHow] = useState<'any' | 'none'>('any');
  const [chosen, setChosen] = useState<{ code: string; name: string }[]>([]);
  const say = (to: 'any' | 'none', values: typeof chosen) => {
    setHow(to);
    setChosen(values);
    onSaid(values.length > 0 ? `${to}:${values.map((one) => one.code).join(',')}` : '');
  };
  const toggle = (value: { code: string; name: string }) =>
    say(
      how,
      chosen.some((one) => one.code === value.code)
        ? chosen.filter((one) => one.code !== value.code)
        : [...chosen, value],
    );
  const among =
    column.kind === 'CHOICE' ? column.choices.map(({ value, words }) => ({ code: value, name: words })) : chosen;
  return (
    <>
      <Choice label="How" className="cell-input" of={ANY_OR_NONE} value={how} onChange={(to) => say(to, chosen)} />
      {column.kind === 'CODE' && (
        <Field of="filter-code" label="find by name or code">
          <LookAhead
            id="filter-code"
            name={`offered ${list} ${column.name}`}
            label="find by name or code"
            className="cell-input wide-260"
            load={(text) => offered(list, column.name, text)}
            shown=""
            row={(hit) => (
              <>
                <span className="mono">{hit.code}</span> {hit.name}
              </>
            )}
            keyOf={(hit) => hit.code}
            onTake={toggle}
          />
        </Field>
      )}
      <div className="ticks above-14">
        {among.map((one) => (
          <label key={one.code}>
            <input
              type="checkbox"
              checked={chosen.some((other) => other.code === one.code)}
              onChange={() => toggle(one)}
            />{' '}
            {one.name}
          </label>
        ))}
      </div>
    </>
  );
}

function Condition({ list, column, onSaid }: Said & { list: string; column: Column }) {
  switch (column.kind) {
    case 'TEXT':
      return <Text onSaid={onSaid} />;
    case 'DAY':
    case 'MOMENT':
      return <Days onSaid={onSaid} />;
    case 'AS_OF':
      return <AsOf onSaid={onSaid} />;
    case 'FLAG':
      return <Flag onSaid={onSaid} />;
    case 'CHOICE':
    case 'CODE':
      return <Among list={list} column={column} onSaid={onSaid} />;
    default:
      return <Figures onSaid={onSaid} />;
  }
}

/** What is said before anything is chosen. */
const FIRST: Partial<Record<Column['kind'], string>> = { DAY: 'in:today', MOMENT: 'in:today', AS_OF: 'at:last-month' };

/** Asks for one more condition on the rows of a list. */
export function FilterDialog({
  list,
  columns,
  onGiven,
  onClose,
}: {
  list: string;
  columns: Column[];
  onGiven: (written: string) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState(columns[0]?.name ?? '');
  const column = columns.find((one) => one.name === name);
  const first = (of: Column | undefined) => (of && FIRST[of.kind]) ?? '';
  const [operand, setOperand] = useState(first(column));
  return (
    <Dialog onClose={onClose} title="Add a filter">
      <DialogForm
        action="Filter"
        ready={operand !== ''}
        busy={false}
        problem={null}
        onGiven={() => onGiven(`${name}:${operand}`)}
        onClose={onClose}
      >
        <Field of="filter-field" label="the field">
          <Choice
            id="filter-field"
            data-autofocus
            className="cell-input wide-260"
            of={columns.map((one) => [one.name, one.label] as const)}
            value={name}
            onChange={(to) => {
              setName(to);
              setOperand(first(columns.find((one) => one.name === to)));
            }}
          />
        </Field>
        <div className="above-14">
          {column && <Condition key={name} list={list} column={column} onSaid={setOperand} />}
        </div>
      </DialogForm>
    </Dialog>
  );
}
