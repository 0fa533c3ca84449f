import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { withEmptyLast } from '../../shared/entryRows';
import { isZero, plain, plainPrice, Words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo, useGoBack } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { ProblemNote, tell, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { FigureInput } from '../../shared/ui/FigureInput';
import { RemoveLine, Table } from '../../shared/ui/Table';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook, ItemLook } from '../masterdata';
import { changeAgreement, agreementQuery, writeAgreement, WORDS, type Kind, type Agreement } from './api';

type Line = { item: string; description: string; quantity: string; price: string; discount: string };
type Call = { on: string; line: string; quantity: string };
type Typed = {
  customer: string;
  customerName: string;
  po: string;
  from: string;
  until: string;
  ceiling: string;
  every: string;
  unit: 'DAY' | 'WEEK' | 'MONTH';
  remark: string;
  lines: Line[];
  schedule: Call[];
};

const NO_LINE: Line = { item: '', description: '', quantity: '', price: '', discount: '' };

/** A new quote, blanket order or recurring order, or the change of one. */
export function AgreementEntryPage() {
  const { number } = useParams();
  const [search] = useSearchParams();
  const { today } = useSession();
  const existing = useQuery({ ...agreementQuery(number ?? ''), enabled: !!number, staleTime: Infinity });
  if (number && !existing.data) return <Waiting query={existing} />;
  const agreement = existing.data;
  const start: Typed = agreement
    ? {
        customer: agreement.customer,
        customerName: agreement.customerName,
        po: agreement.po,
        from: agreement.from,
        until: agreement.until,
        ceiling: agreement.ceiling ?? '',
        every: agreement.every ? String(agreement.every) : '1',
        unit: agreement.unit ?? 'MONTH',
        remark: agreement.remark,
        lines: [
          ...agreement.lines.map((line) => ({
            item: line.item,
            description: line.description,
            quantity: plain(line.quantity),
            price: plainPrice(line.price),
            discount: isZero(line.discount) ? '' : plain(line.discount),
          })),
          NO_LINE,
        ],
        schedule: agreement.schedule
          .filter((call) => !call.order)
          .map((call) => ({ on: call.on, line: String(call.line), quantity: plain(call.quantity) })),
      }
    : {
        customer: '',
        customerName: '',
        po: '',
        from: today,
        until: '',
        ceiling: '',
        every: '1',
        unit: 'MONTH',
        remark: '',
        lines: [NO_LINE],
        schedule: [],
      };
  return (
    <Entry
      key={number ?? 'new'}
      agreement={agreement}
      kind={agreement?.kind ?? ((search.get('kind') ?? 'QUOTE') as Kind)}
      start={start}
    />
  );
}

function Entry({ agreement, kind, start }: { agreement: Agreement | undefined; kind: Kind; start: Typed }) {
  const [typed, setTyped] = useState(start);
  const saved = useUnsaved(typed !== start);
  const navigate = useGo();
  const goBack = useGoBack();
  const set = (change: Partial<Typed>) => setTyped((before) => ({ ...before, ...change }));
  const { one } = WORDS[kind];
  const content: Schemas['WrittenAgreement'] = {
    customer: typed.customer,
    po: typed.po,
    from: typed.from,
    until: typed.until,
    ceiling: kind === 'BLANKET_ORDER' && typed.ceiling ? typed.ceiling : undefined,
    every: kind === 'RECURRING_ORDER' ? Number(typed.every) || undefined : undefined,
    unit: kind === 'RECURRING_ORDER' ? typed.unit : undefined,
    remark: typed.remark,
    details: agreement && { ...agreement.details, shipTo: agreement.details.shipTo ?? undefined },
    lines: typed.lines
      .filter((line) => line.item)
      .map((line) => ({
        item: line.item,
        quantity: line.quantity || '0',
        price: line.price || undefined,
        discount: line.discount || undefined,
      })),
    schedule: typed.schedule
      .filter((call) => call.on && call.line && call.quantity)
      .map((call) => ({ on: call.on, line: Number(call.line), quantity: call.quantity })),
  };
  const save = useMutation({
    mutationFn: () =>
      agreement ? changeAgreement(agreement.number, agreement.version, content) : writeAgreement(kind, content),
    onSuccess: (kept) => {
      tell(`${Words(one)} ${kept.number} saved.`);
      saved();
      navigate(`/orders/agreements/${kept.number}`);
    },
  });
  const complete = typed.customer !== '' && typed.from !== '' && typed.until !== '' && content.lines.length > 0;
  const keep = () => complete && !save.isPending && save.mutate();
  useKeys({ 'ctrl+enter': keep, 'ctrl+s': keep });
  const setLine = (at: number, change: Partial<Line>) => {
    const lines = typed.lines.map((line, index) => (index === at ? { ...line, ...change } : line));
    set({ lines: withEmptyLast(lines, (line) => line.item !== '', NO_LINE) });
  };
  const day = (id: 'from' | 'until', label: string) => (
    <Field of={`agreement-${id}`} label={label}>
      <DayInput id={`agreement-${id}`} value={typed[id]} onChange={(chosen) => set({ [id]: chosen })} />
    </Field>
  );
  const field = (id: 'po' | 'ceiling' | 'remark', label: string) => (
    <Field of={`agreement-${id}`} label={label}>
      <TextLine id={`agreement-${id}`} maxLength={2000} value={typed[id]} onChange={(to) => set({ [id]: to })} />
    </Field>
  );
  const figureInput = (at: number, key: 'quantity' | 'price' | 'discount', label: string) => (
    <FigureInput
      id={`agreement-${key}-${at + 1}`}
      label={`${label} of line ${at + 1}`}
      placeholder={key === 'price' ? 'list' : key === 'discount' ? '–' : ''}
      value={typed.lines[at]?.[key] ?? ''}
      onChange={(text) => setLine(at, { [key]: text })}
    />
  );
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{agreement ? `Change ${one} ${agreement.number}` : `New ${one}`}</h1>
        </div>
        <div className="fields">
          <Field of="agreement-customer" label="Customer">
            {agreement ? (
              <output id="agreement-customer">
                <b>{typed.customerName}</b>
              </output>
            ) : (
              <CustomerLook
                id="agreement-customer"
                label="Customer"
                autoFocus
                shown={typed.customerName}
                onTake={(hit) => set({ customer: hit.code, customerName: hit.name })}
              />
            )}
          </Field>
          {field('po', 'Customer PO')}
          {day('from', kind === 'RECURRING_ORDER' ? 'First order due' : 'Valid from')}
          {day('until', kind === 'QUOTE' ? 'Valid until' : 'Until')}
          {field('remark', 'Remark')}
          {kind === 'BLANKET_ORDER' && field('ceiling', `Value limit ${currency()}, optional`)}
          {kind === 'RECURRING_ORDER' && (
            <Field of="agreement-every" label="Repeats every">
              <span className="row gap-8">
                <TextLine
                  id="agreement-every"
                  className="wide-50"
                  inputMode="numeric"
                  value={typed.every}
                  onChange={(to) => set({ every: to.replace(/\D/g, '') })}
                />
                <Choice aria-label="Unit of recurrence" value={typed.unit} onChange={(to) => set({ unit: to })}>
                  <option value="DAY">days</option>
                  <option value="WEEK">weeks</option>
                  <option value="MONTH">months</option>
                </Choice>
              </span>
            </Field>
          )}
        </div>
        <Table
          caption="Lines"
          of={typed.lines}
          keyOf={(_, at) => at}
          className="inset"
          columns={[
            { head: 'Line', num: true, width: 'wide-30', className: 'muted', cell: (_, at) => at + 1 },
            {
              head: 'Item',
              cell: (line, at) => (
                <ItemLook
                  label={`Item of line ${at + 1}`}
                  placeholder={at === 0 ? 'name or code' : ''}
                  shown={line.description}
                  onTake={(hit) => {
                    setLine(at, { item: hit.code, description: hit.name, quantity: line.quantity || '1' });
                    setTimeout(() => document.getElementById(`agreement-quantity-${at + 1}`)?.focus());
                  }}
                />
              ),
            },
            {
              head: 'Quantity',
              width: 'num wide-100',
              cell: (line, at) => line.item && figureInput(at, 'quantity', 'Quantity'),
            },
            {
              head: 'Price',
              width: 'num wide-110',
              cell: (line, at) => line.item && figureInput(at, 'price', 'Price'),
            },
            {
              head: 'Discount %',
              width: 'num wide-80',
              cell: (line, at) => line.item && figureInput(at, 'discount', 'Discount'),
            },
            {
              width: 'wide-20',
              cell: (line, at) =>
                line.item && (
                  <RemoveLine at={at} onRemove={() => set({ lines: typed.lines.filter((_, index) => index !== at) })} />
                ),
            },
          ]}
        />
        {kind === 'BLANKET_ORDER' && (
          <Schedule
            calls={typed.schedule}
            lines={typed.lines.filter((line) => line.item)}
            onChange={(schedule) => set({ schedule })}
          />
        )}
        <ProblemNote problem={save.error} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!complete || save.isPending} onClick={keep}>
          Save <kbd>Ctrl ↵</kbd>
        </button>
        <button className="button" onClick={goBack}>
          Cancel
        </button>
      </div>
    </div>
  );
}

/** When what is to be called off; an order is proposed on the day, and made manually. */
function Schedule({ calls, lines, onChange }: { calls: Call[]; lines: Line[]; onChange: (to: Call[]) => void }) {
  const set = (at: number, change: Partial<Call>) =>
    onChange(calls.map((call, index) => (index === at ? { ...call, ...change } : call)));
  return (
    <section className="above-18 up-to-620">
      <h2>Call-off schedule</h2>
      {calls.map((call, at) => (
        <div key={at} className="row gap-12 inset-3px-0">
          <DayInput
            className="cell-input"
            style={{ width: 120 }}
            label={`Date of call-off ${at + 1}`}
            value={call.on}
            onChange={(chosen) => set(at, { on: chosen })}
          />
          <Choice
            className="cell-input"
            aria-label={`Line of call-off ${at + 1}`}
            value={call.line}
            onChange={(to) => set(at, { line: to })}
          >
            <option value="">choose a line</option>
            {lines.map((line, index) => (
              <option key={index} value={index + 1}>
                {index + 1}, {line.description}
              </option>
            ))}
          </Choice>
          <FigureInput
            width={90}
            placeholder="quantity"
            label={`Quantity of call-off ${at + 1}`}
            value={call.quantity}
            onChange={(quantity) => set(at, { quantity })}
          />
          <button className="plain small nowrap" onClick={() => onChange(calls.filter((_, index) => index !== at))}>
            remove
          </button>
        </div>
      ))}
      <button className="plain small" onClick={() => onChange([...calls, { on: '', line: '', quantity: '' }])}>
        + call-off
      </button>
    </section>
  );
}
