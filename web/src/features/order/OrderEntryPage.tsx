import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { answer, client, type Problem, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { withEmptyLast } from '../../shared/entryRows';
import { capital, figure, isZero, moment, plain, plainPrice, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Mark, ProblemNote, tell, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook, sitesQuery } from '../masterdata';
import { Position, sheetQuery, type Sheet } from '../review';
import { rulesQuery } from '../rules';
import { EntryLine } from './EntryLine';
import { changeOrder, isWritten, tryOrder, writeOrder, type ShipTo, type TypedLine, type TypedOrder } from './api';
import { keepUnfinished, unfinished } from './unfinished';

const KINDS: TypedOrder['kind'][] = ['STANDARD', 'SAMPLE', 'REPLACEMENT'];
const NOWHERE: ShipTo = { name: '', street: '', postcode: '', town: '', country: '' };

const noLine = (): TypedLine => ({
  item: '',
  description: '',
  free: null,
  quantity: '',
  price: '',
  discount: '',
  requestedOn: '',
  site: '',
  shortage: 'WAIT',
});

const fresh = (today: string, customer: Schemas['CustomerView'] | undefined): TypedOrder => ({
  customer: customer?.code ?? '',
  customerName: customer?.name ?? '',
  po: '',
  kind: 'STANDARD',
  site: '',
  requestedOn: today,
  remark: '',
  externalReference: '',
  revenueUnit: null,
  shipTo: null,
  fields: {},
  replaces: '',
  lines: [noLine()],
});

const typed = ({ order }: Sheet): TypedOrder => ({
  customer: order.customer,
  customerName: order.customerName,
  po: order.po,
  kind: order.kind,
  site: order.site,
  requestedOn: order.requestedOn,
  remark: order.remark,
  externalReference: order.details.externalReference,
  revenueUnit: order.details.revenueUnit,
  shipTo: order.details.shipTo ? { ...NOWHERE, ...order.details.shipTo } : null,
  fields: order.details.fields,
  replaces: order.details.replaces,
  lines: [
    ...order.lines.map((line): TypedLine => ({
      ...noLine(),
      no: line.no,
      kind: line.kind === 'TEXT' && !line.item ? 'TEXT' : line.kind === 'SUBTOTAL' ? 'SUBTOTAL' : undefined,
      item: line.item,
      description: line.description,
      quantity: plain(line.quantity),
      price: plainPrice(line.price),
      discount: isZero(line.discount) ? '' : plain(line.discount),
      requestedOn: line.requestedOn === order.requestedOn ? '' : line.requestedOn,
      site: line.site,
      shortage: line.shortage,
    })),
    noLine(),
  ],
});

/** A new order, or the change of one that exists. */
export function OrderEntryPage() {
  const { number } = useParams();
  const { today, username } = useSession();
  const [search] = useSearchParams();
  const [again, setAgain] = useState(0);
  const code = number ? '' : (search.get('customer') ?? '');
  const existing = useQuery({ ...sheetQuery(number ?? ''), enabled: !!number, staleTime: Infinity });
  const customer = useQuery({
    queryKey: keyOf('customer-view', code),
    queryFn: () => answer(client.GET('/api/customers/{code}', { params: { path: { code } } })),
    enabled: code !== '',
    staleTime: Infinity,
  });
  if (number) {
    if (!existing.data) return <Waiting query={existing} />;
    return <Entry key={number} sheet={existing.data} start={typed(existing.data)} />;
  }
  if (code && !customer.data) return <Waiting query={customer} />;
  const left = code ? null : unfinished(username);
  const afresh = () => {
    keepUnfinished(username, null);
    setAgain(again + 1);
  };
  return (
    <Entry
      key={code || again}
      sheet={null}
      start={left ? { ...fresh(today, undefined), ...left.order } : fresh(today, customer.data)}
      left={left?.at}
      onAfresh={afresh}
      onTyped={code ? undefined : (order) => keepUnfinished(username, order)}
    />
  );
}

/** There is something to be checked. */
const isComplete = (order: TypedOrder) => order.customer !== '' && order.lines.some((line) => line.item);

/** Where an entry that is missing is made. */
const fieldOf = (field: string, lines: TypedLine[]) => {
  const line = /^lines\[(\d+)\]\.(\w+)$/.exec(field);
  if (line) {
    const no = Number(line[1]);
    const typed = lines.filter(isWritten).find((one, index) => (one.no ?? index + 1) === no);
    return `${line[2]}-${typed ? lines.indexOf(typed) + 1 : no}`;
  }
  return (
    ({ po: 'po', lines: 'item-1', revenueUnit: 'revenue-unit' } as Record<string, string>)[field] ??
    field.replace('fields.', 'field-')
  );
};

/**
 * @param left when what it starts with was typed, if it was left unfinished
 * @param onTyped told of what is typed, and of nothing once it is kept
 */
function Entry({
  sheet,
  start,
  left,
  onAfresh,
  onTyped,
}: {
  sheet: Sheet | null;
  start: TypedOrder;
  left?: string;
  onAfresh?: () => void;
  onTyped?: (order: TypedOrder | null) => void;
}) {
  const [order, setOrder] = useState(start);
  const [since] = useState(left);
  const typedNow = useEffectEvent(() => {
    if (order !== start) onTyped?.(order);
  });
  useEffect(() => typedNow(), [order]);
  // a new order is kept in the browser
  const letGo = useUnsaved(sheet !== null && order !== start);
  const navigate = useGo();
  const sites = useQuery(sitesQuery).data ?? [];
  const rules = useQuery(rulesQuery).data?.entry;
  const draft = !sheet || sheet.order.state === 'DRAFT';
  const save = useMutation<{ number: string; state: string }, Problem, boolean>({
    mutationFn: (keep) =>
      sheet ? changeOrder(sheet.order.number, sheet.order.version, order) : writeOrder(order, keep),
    onSuccess: (saved) => {
      tell(`Order ${saved.number} is ${words(saved.state) === 'draft' ? 'saved as a draft' : words(saved.state)}.`);
      onTyped?.(null);
      letGo();
      navigate(`/orders/${saved.number}`);
    },
  });
  const complete = isComplete(order);
  const submit = () => complete && !save.isPending && save.mutate(false);
  const keep = () => order.customer && !save.isPending && save.mutate(true);
  useKeys({ 'ctrl+enter': submit, 'ctrl+s': sheet ? submit : () => keep() });
  const set = (change: Partial<TypedOrder>) => setOrder((before) => ({ ...before, ...change }));
  // from what the lines are by then, so that a line that was not drawn again has no old ones in mind
  const setLines = (change: (lines: TypedLine[]) => TypedLine[]) =>
    setOrder((before) => {
      return { ...before, lines: withEmptyLast(change(before.lines), isWritten, noLine()) };
    });
  const setLine = (index: number, change: Partial<TypedLine>) =>
    setLines((lines) => lines.map((line, at) => (at === index ? { ...line, ...change } : line)));
  const add = (kind: 'TEXT' | 'SUBTOTAL') => {
    const at = order.lines.findIndex((line) => !isWritten(line));
    setLines((lines) => [
      ...lines.slice(0, at),
      { ...noLine(), kind, description: kind === 'SUBTOTAL' ? 'Subtotal' : '' },
      ...lines.slice(at),
    ]);
    setTimeout(() => document.getElementById(`item-${at + 1}`)?.focus());
  };
  const run = useDryRun(order, sheet?.order.number, complete);
  const tried = order.lines.filter(isWritten);
  const lacking = new Set(run.data?.order.missing.map((one) => fieldOf(one.field, order.lines)));
  const wrong = (check: string) => !!run.data?.findings.some((f) => f.check === check);
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1>{sheet ? `Change order ${sheet.order.number}` : 'New order'}</h1>
            <span className="muted small nowrap">
              <kbd>↵</kbd> next line · <kbd>Shift ↵</kbd> in a list marks several
            </span>
          </div>
          {since && (
            <p className="muted small" role="status">
              Your unsaved order from {moment(since)} is restored.{' '}
              <button className="plain" onClick={onAfresh}>
                Start over
              </button>
            </p>
          )}
          <div className="fields">
            <Field of="customer" label="Customer">
              {sheet ? (
                <output id="customer">
                  <b>{order.customerName}</b>
                </output>
              ) : (
                <CustomerLook
                  id="customer"
                  label="Customer"
                  autoFocus={order.customer === ''}
                  shown={order.customerName}
                  onTake={(hit) => set({ customer: hit.code, customerName: hit.name })}
                />
              )}
            </Field>
            <Field
              of="po"
              label="Customer PO"
              wrong={wrong('duplicate-po') || wrong('missing-po') || lacking.has('po')}
            >
              <TextLine id="po" className="mono" maxLength={120} value={order.po} onChange={(to) => set({ po: to })} />
            </Field>
            <Field of="wanted" label="Requested" wrong={wrong('dates')}>
              <DayInput id="wanted" value={order.requestedOn} onChange={(day) => set({ requestedOn: day })} />
            </Field>
            <Field of="kind" label="Kind">
              <Choice id="kind" value={order.kind} disabled={!!sheet} onChange={(to) => set({ kind: to })}>
                {[...new Set([...KINDS, order.kind])].map((kind) => (
                  <option key={kind} value={kind}>
                    {words(kind)}
                  </option>
                ))}
              </Choice>
            </Field>
            {order.kind === 'REPLACEMENT' && (
              <Field of="replaces" label="Replaces goods of return or dispatch" wrong={lacking.has('replaces')}>
                <TextLine
                  id="replaces"
                  className="mono"
                  maxLength={40}
                  value={order.replaces}
                  onChange={(to) => set({ replaces: to })}
                />
              </Field>
            )}
            <Field of="remark" label="Remark">
              <TextLine id="remark" maxLength={2000} value={order.remark} onChange={(to) => set({ remark: to })} />
            </Field>
            <Field of="external" label="External reference">
              <TextLine
                id="external"
                maxLength={120}
                value={order.externalReference}
                onChange={(to) => set({ externalReference: to })}
              />
            </Field>
            {sites.length > 1 && (
              <Field of="site" label="Ships from">
                <Choice
                  id="site"
                  value={order.site || (sites[0]?.code ?? '')}
                  disabled={!!sheet}
                  onChange={(to) => set({ site: to })}
                >
                  {sites.map((site) => (
                    <option key={site.code} value={site.code}>
                      {site.name}
                    </option>
                  ))}
                </Choice>
              </Field>
            )}
            {rules && rules.units.length > 0 && (
              <Field of="revenue-unit" label="Revenue unit" wrong={lacking.has('revenue-unit')}>
                <Choice
                  id="revenue-unit"
                  value={order.revenueUnit ?? rules.units[0]?.code ?? ''}
                  onChange={(to) => set({ revenueUnit: to })}
                >
                  {order.revenueUnit === '' && <option value="" />}
                  {rules.units.map((unit) => (
                    <option key={unit.code} value={unit.code}>
                      {unit.name}
                    </option>
                  ))}
                </Choice>
              </Field>
            )}
            {rules?.fields.map((field) => (
              <HouseFieldInput
                key={field.code}
                field={field}
                lacking={lacking.has(`field-${field.code}`)}
                value={order.fields[field.code] ?? ''}
                onChange={(to) => set({ fields: { ...order.fields, [field.code]: to } })}
              />
            ))}
          </div>
          <ShipToFields shipTo={order.shipTo} onChange={(shipTo) => set({ shipTo })} />
          <Table
            caption="Lines"
            className="inset"
            of={order.lines}
            keyOf={(_, index) => index}
            drawn={(line, index) => {
              const result = isWritten(line) ? run.data?.order.lines[tried.indexOf(line)] : undefined;
              return (
                <EntryLine
                  line={line}
                  position={index + 1}
                  site={order.site}
                  result={result}
                  lacking={lacking.has(`quantity-${index + 1}`)}
                  shortage={run.data?.shortages.find((one) => one.line === result?.no)}
                  onChange={(change) => setLine(index, change)}
                  onMore={(more) => setLines((lines) => [...lines.slice(0, index), ...more, ...lines.slice(index + 1)])}
                  onRemove={() => setLines((lines) => lines.filter((_, at) => at !== index))}
                  blank={noLine}
                />
              );
            }}
            columns={[
              { head: 'Line', num: true, width: 'wide-30' },
              { head: 'Item' },
              { head: 'Quantity', num: true, width: 'wide-76' },
              { head: 'Free', num: true, width: 'wide-58' },
              { head: 'Requested', width: 'wide-104' },
              { head: 'Price', num: true, width: 'wide-82' },
              { head: 'Discount %', num: true, width: 'wide-56' },
              { head: <>Net {currency()}</>, num: true, width: 'wide-88' },
              { width: 'wide-16' },
            ]}
          />
          <div className="row gap-16 above-8">
            <button className="plain small" onClick={() => add('TEXT')}>
              + text
            </button>
            <button className="plain small" onClick={() => add('SUBTOTAL')}>
              + subtotal
            </button>
          </div>
          {run.data && (
            <div className="totals">
              <span>
                net <b>{figure(run.data.order.net)}</b>
              </span>
              <span>
                VAT <b>{figure(run.data.order.vat)}</b>
              </span>
              <span>
                gross <b>{figure(run.data.order.gross)}</b>
              </span>
            </div>
          )}
          <ProblemNote problem={save.error} />
        </div>
        <div className="bar">
          <button className="button first" disabled={!complete || save.isPending} onClick={submit}>
            {sheet ? (draft ? 'Save draft' : 'Save the change') : 'Submit'} <kbd>Ctrl ↵</kbd>
          </button>
          {!sheet && (
            <button className="button" disabled={!order.customer || save.isPending} onClick={keep}>
              Save as draft <kbd>Ctrl S</kbd>
            </button>
          )}
          {sheet && (
            <button className="button" onClick={() => navigate(`/orders/${sheet.order.number}`)}>
              Cancel
            </button>
          )}
        </div>
      </div>
      <aside>
        <DryRun run={run} complete={complete} change={!draft} lines={order.lines} />
      </aside>
    </div>
  );
}

function HouseFieldInput({
  field,
  lacking,
  value,
  onChange,
}: {
  field: Schemas['FieldView'];
  lacking: boolean;
  value: string;
  onChange: (to: string) => void;
}) {
  const id = `field-${field.code}`;
  return (
    <Field of={id} label={field.required ? `${field.label} *` : field.label} wrong={lacking}>
      {field.kind === 'LIST' ? (
        <Choice id={id} value={value} onChange={onChange}>
          <option value="" />
          {field.choices?.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </Choice>
      ) : field.kind === 'DATE' ? (
        <DayInput id={id} value={value} optional onChange={onChange} />
      ) : field.kind === 'NUMBER' ? (
        <FigureInput id={id} className="" signed value={value} onChange={onChange} />
      ) : (
        <TextLine id={id} maxLength={200} value={value} onChange={onChange} />
      )}
    </Field>
  );
}

/** Another address for this order only. */
function ShipToFields({ shipTo, onChange }: { shipTo: ShipTo | null; onChange: (to: ShipTo | null) => void }) {
  if (!shipTo) {
    return (
      <button className="plain small below-12" onClick={() => onChange(NOWHERE)}>
        Ship to another address
      </button>
    );
  }
  const field = (id: keyof ShipTo, label: string, max: number) => (
    <Field of={`ship-${id}`} label={label}>
      <TextLine
        id={`ship-${id}`}
        maxLength={max}
        value={shipTo[id]}
        onChange={(to) => onChange({ ...shipTo, [id]: to })}
      />
    </Field>
  );
  return (
    <div className="below-12">
      <div className="muted small">
        Only this order ships to the address below.{' '}
        <button className="plain small" onClick={() => onChange(null)}>
          Use the customer’s address
        </button>
      </div>
      <div className="fields columns-2fr-2fr-90px-1-2fr-60px below-0">
        {field('name', 'Name', 200)}
        {field('street', 'Street', 200)}
        {field('postcode', 'Postcode', 20)}
        {field('town', 'Town', 120)}
        {field('country', 'Country', 2)}
      </div>
    </div>
  );
}

/** What the checks say of the order as it is typed now; nothing is saved. */
function useDryRun(order: TypedOrder, number: string | undefined, enabled: boolean) {
  const [settled] = useDebouncedValue(order, 350);
  return useQuery({
    queryKey: keyOf('dry-run', number, settled),
    queryFn: () => tryOrder(settled, number),
    // what is complete by now may not have been when the typing rested
    enabled: enabled && isComplete(settled),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
}

const OUTLOOK = {
  NOT_READY: 'Not ready to submit',
  HELD: 'Would be held',
  AWAITING_APPROVAL: 'Would wait for approval',
  FLAGGED: 'Would be cleared with a flag',
  CLEARED: 'Would be cleared',
} satisfies Record<Schemas['DryRunView']['outlook'], string>;

function DryRun({
  run,
  complete,
  change,
  lines,
}: {
  run: ReturnType<typeof useDryRun>;
  complete: boolean;
  change: boolean;
  lines: TypedLine[];
}) {
  if (!complete)
    return <p className="muted">Choose a customer and an item. Checks run while you type and show here.</p>;
  if (run.error) return <ProblemNote problem={run.error} />;
  if (!run.data) return <p className="muted">Searching…</p>;
  const { approval } = run.data;
  const missing = run.data.order.missing;
  return (
    <>
      <h2 className="part" aria-live="polite">
        {OUTLOOK[run.data.outlook]}
      </h2>
      <div className="muted small below-10">
        {change ? 'with this change; not saved yet' : 'as typed; not saved yet'}
      </div>
      {missing.length > 0 && (
        <div className="line-above inset-8px-0">
          <b>Missing</b>
          {missing.map((one) => (
            <div key={one.field}>
              <button className="plain" onClick={() => document.getElementById(fieldOf(one.field, lines))?.focus()}>
                {capital(one.expected)}
              </button>
            </div>
          ))}
        </div>
      )}
      {approval.map((ask) => (
        <div key={ask} className="line-above inset-8px-0">
          <Mark of="awaiting" />
          <b>Approval</b>
          <div>{capital(ask)}.</div>
        </div>
      ))}
      {run.data.findings.map((finding) => (
        <div key={finding.check} className="line-above inset-8px-0">
          <Mark of={finding.severity} />
          <b>{finding.title}</b>
          <div>{capital(finding.sentence)}.</div>
        </div>
      ))}
      {run.data.findings.length === 0 && (
        <div className="muted line-above inset-8px-0">
          <Mark of="settled" />
          All checks passed
        </div>
      )}
      <div className="above-16">
        <Position name={run.data.order.customerName} position={run.data.position} />
      </div>
    </>
  );
}
