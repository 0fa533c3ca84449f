import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Problem } from '../../shared/api/http';
import { figure, price, trim, Words, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useSession } from '../../shared/session';
import { Mark, ProblemNote, tell, Waiting } from '../../shared/ui';
import { LookAhead } from '../../shared/ui/LookAhead';
import { Position, refreshAll, sheetQuery, type Sheet } from '../review';
import { changeOrder, findCustomers, findItems, tryOrder, writeOrder, type TypedLine, type TypedOrder } from './api';

const NO_LINE: TypedLine = { item: '', description: '', unit: '', free: null, quantity: '', price: '', discount: '' };
const KINDS: TypedOrder['kind'][] = ['STANDARD', 'SAMPLE', 'REPLACEMENT'];

const fresh = (today: string): TypedOrder => ({
  customer: '',
  customerName: '',
  po: '',
  kind: 'STANDARD',
  requestedOn: today,
  remark: '',
  lines: [{ ...NO_LINE }],
});

const typed = ({ order }: Sheet): TypedOrder => ({
  customer: order.customer,
  customerName: order.customerName,
  po: order.po,
  kind: order.kind,
  requestedOn: order.requestedOn,
  remark: order.remark,
  lines: [
    ...order.lines.map((line) => ({
      no: line.no,
      item: line.item,
      description: line.description,
      unit: '',
      free: null,
      quantity: line.quantity,
      price: line.price,
      discount: Number(line.discount) === 0 ? '' : line.discount.replace(/\.?0+$/, ''),
    })),
    { ...NO_LINE },
  ],
});

/** A new order, or the change of one that exists. */
export function OrderEntryPage() {
  const { number } = useParams();
  const { today } = useSession();
  const existing = useQuery({ ...sheetQuery(number ?? ''), enabled: !!number, staleTime: Infinity });
  if (number && !existing.data) return <Waiting query={existing} />;
  return <Entry key={number ?? 'new'} sheet={number ? existing.data! : null} start={number ? typed(existing.data!) : fresh(today)} />;
}

function Entry({ sheet, start }: { sheet: Sheet | null; start: TypedOrder }) {
  const [order, setOrder] = useState(start);
  const navigate = useNavigate();
  const save = useMutation<{ number: string; state: string }, Problem, boolean>({
    mutationFn: (draft) => (sheet ? changeOrder(sheet.order.number, sheet.order.version, order) : writeOrder(order, draft)),
    onSuccess: (saved) => {
      tell(`Order ${saved.number} is ${words(saved.state) === 'draft' ? 'kept as a draft' : words(saved.state)}.`);
      refreshAll();
      navigate(`/orders/${saved.number}`);
    },
  });
  const complete = order.customer !== '' && order.lines.some((line) => line.item);
  const handIn = () => complete && !save.isPending && save.mutate(false);
  const keep = () => order.customer && !save.isPending && save.mutate(true);
  useKeys({ 'ctrl+enter': handIn, 'ctrl+s': sheet ? handIn : () => keep() });
  const set = (change: Partial<TypedOrder>) => setOrder({ ...order, ...change });
  const setLine = (index: number, change: Partial<TypedLine>) => {
    const lines = order.lines.map((line, at) => (at === index ? { ...line, ...change } : line));
    if (lines[lines.length - 1].item) lines.push({ ...NO_LINE });
    set({ lines });
  };
  const run = useDryRun(order, complete && !sheet);
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1>{sheet ? `Change order ${sheet.order.number}` : 'New order'}</h1>
          </div>
          <div className="fields">
            <div className="field">
              <label>Customer</label>
              {sheet ? (
                <b>{order.customerName}</b>
              ) : (
                <LookAhead
                  name="customers"
                  label="Customer"
                  autoFocus
                  placeholder="name, town or code"
                  load={findCustomers}
                  shown={order.customerName}
                  keyOf={(hit) => hit.code}
                  row={(hit) => (
                    <>
                      <span className="mono">{hit.code}</span>
                      <span>{hit.name}</span>
                      <span className="muted">{hit.town}</span>
                    </>
                  )}
                  onTake={(hit) => set({ customer: hit.code, customerName: hit.name })}
                />
              )}
            </div>
            <div className={`field${run.data?.findings.some((f) => f.check === 'duplicate-po') ? ' wrong' : ''}`}>
              <label htmlFor="po">Their PO</label>
              <input id="po" className="mono" maxLength={120} value={order.po} onChange={(event) => set({ po: event.target.value })} />
            </div>
            <div className="field">
              <label htmlFor="wanted">Wanted by</label>
              <input id="wanted" type="date" value={order.requestedOn} onChange={(event) => set({ requestedOn: event.target.value })} />
            </div>
            <div className="field">
              <label htmlFor="kind">Kind</label>
              <select id="kind" value={order.kind} disabled={!!sheet} onChange={(e) => set({ kind: e.target.value as TypedOrder['kind'] })}>
                {KINDS.map((kind) => (
                  <option key={kind} value={kind}>
                    {words(kind)}
                  </option>
                ))}
              </select>
            </div>
            <div className="field" style={{ gridColumn: '1 / -1' }}>
              <label htmlFor="remark">Remark</label>
              <input id="remark" maxLength={2000} value={order.remark} onChange={(event) => set({ remark: event.target.value })} />
            </div>
          </div>
          <table className="rows inset">
            <thead>
              <tr>
                <th className="num" style={{ width: 30 }}>
                  Line
                </th>
                <th>Item</th>
                <th className="num" style={{ width: 90 }}>
                  Quantity
                </th>
                <th className="num" style={{ width: 60 }}>
                  Free
                </th>
                <th className="num" style={{ width: 100 }}>
                  Price
                </th>
                <th className="num" style={{ width: 70 }}>
                  Less %
                </th>
                <th className="num" style={{ width: 100 }}>
                  Net €
                </th>
                <th style={{ width: 20 }} />
              </tr>
            </thead>
            <tbody>
              {order.lines.map((line, index) => (
                <EntryLine
                  key={index}
                  line={line}
                  position={index + 1}
                  net={run.data?.order.lines.filter(() => line.item)[order.lines.slice(0, index).filter((l) => l.item).length]?.net}
                  onChange={(change) => setLine(index, change)}
                  onRemove={() => set({ lines: order.lines.filter((_, at) => at !== index) })}
                />
              ))}
            </tbody>
          </table>
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
          <button className="button first" disabled={!complete || save.isPending} onClick={handIn}>
            {sheet ? 'Save the change' : 'Hand in'} <kbd>Ctrl ↵</kbd>
          </button>
          {!sheet && (
            <button className="button" disabled={!order.customer || save.isPending} onClick={keep}>
              Keep as draft <kbd>Ctrl S</kbd>
            </button>
          )}
        </div>
      </div>
      <aside>
        {sheet ? (
          <p className="muted">The checks run again when the change is saved. Quantity can't fall below what is staged, shipped, billed or cancelled.</p>
        ) : (
          <DryRun run={run} complete={complete} />
        )}
      </aside>
    </div>
  );
}

/** What the checks say of the order as it is typed now; nothing is saved. */
function useDryRun(order: TypedOrder, enabled: boolean) {
  const [settled] = useDebouncedValue(order, 350);
  return useQuery({
    queryKey: ['dry-run', settled],
    queryFn: () => tryOrder(settled),
    enabled: enabled && settled.customer !== '',
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
}

function DryRun({ run, complete }: { run: ReturnType<typeof useDryRun>; complete: boolean }) {
  if (!complete) return <p className="muted">Choose a customer and an item; what would hold the order is told here while you type.</p>;
  if (run.error) return <ProblemNote problem={run.error} />;
  if (!run.data) return <p className="muted">Looking…</p>;
  const stops = run.data.findings.filter((finding) => finding.severity === 'STOP');
  const { approval } = run.data;
  const headline =
    stops.length > 0 ? 'It would be held' : approval.length > 0 ? 'It would wait for approval' : run.data.findings.length > 0 ? 'It would pass, flagged' : 'It would pass';
  return (
    <>
      <h1>{headline}</h1>
      <div className="muted small" style={{ marginBottom: 10 }}>
        as it stands now, nothing is saved yet
      </div>
      {approval.map((ask) => (
        <div key={ask} style={{ borderTop: '1px solid var(--rule)', padding: '8px 0' }}>
          <Mark of="awaiting" />
          <b>Approval</b>
          <div>{ask.replace(/^./, (first) => first.toUpperCase())}.</div>
        </div>
      ))}
      {run.data.findings.map((finding) => (
        <div key={finding.check} style={{ borderTop: '1px solid var(--rule)', padding: '8px 0' }}>
          <Mark of={finding.severity} />
          <b>{finding.title}</b>
          <div>{finding.sentence.replace(/^./, (first) => first.toUpperCase())}.</div>
        </div>
      ))}
      {run.data.findings.length === 0 && (
        <div style={{ borderTop: '1px solid var(--rule)', padding: '8px 0' }} className="muted">
          <Mark of="settled" />
          Credit, PO, price, licence, stock: nothing found
        </div>
      )}
      <div style={{ marginTop: 16 }}>
        <Position name={run.data.order.customerName} position={run.data.position} />
      </div>
    </>
  );
}

function EntryLine({
  line,
  position,
  net,
  onChange,
  onRemove,
}: {
  line: TypedLine;
  position: number;
  net: string | undefined;
  onChange: (change: Partial<TypedLine>) => void;
  onRemove: () => void;
}) {
  const [focusQuantity, setFocusQuantity] = useState(false);
  useEffect(() => {
    if (focusQuantity) document.getElementById(`quantity-${position}`)?.focus();
  }, [focusQuantity, position]);
  const number = (field: 'quantity' | 'price' | 'discount', label: string, placeholder: string) => (
    <input
      id={`${field}-${position}`}
      className="cell-input num"
      aria-label={`${label} of line ${position}`}
      inputMode="decimal"
      placeholder={placeholder}
      value={line[field]}
      onChange={(event) => {
        const text = event.target.value.replace(',', '.');
        if (/^\d*\.?\d*$/.test(text)) onChange({ [field]: text });
      }}
    />
  );
  return (
    <tr>
      <td className="num muted">{line.no ?? position}</td>
      <td>
        <LookAhead
          name="items"
          label={`Item of line ${position}`}
          className="cell-input"
          placeholder={position === 1 ? 'words of its name, or its code' : ''}
          load={findItems}
          shown={line.description}
          keyOf={(hit) => hit.code}
          row={(hit) => (
            <>
              <span className="mono nowrap">{hit.code}</span>
              <span>
                {hit.name} {hit.regulated && <span className="muted">{hit.regulated}</span>}
              </span>
              <span className="nowrap muted">{hit.kind === 'STOCK' ? `${trim(hit.free)} free` : Words(hit.kind).toLowerCase()}</span>
              <span className="nowrap">{price(hit.price)}</span>
            </>
          )}
          onTake={(hit) => {
            onChange({ item: hit.code, description: hit.name, unit: hit.unit, free: hit.kind === 'STOCK' ? hit.free : null, price: hit.price.replace(/(\.\d\d\d*?)0+$/, '$1'), quantity: line.quantity || '1' });
            setFocusQuantity(true);
          }}
        />
      </td>
      <td>{line.item && number('quantity', 'Quantity', '')}</td>
      <td className="num muted">{line.free == null ? '' : trim(line.free)}</td>
      <td>{line.item && number('price', 'Price', '')}</td>
      <td>{line.item && number('discount', 'Discount', '–')}</td>
      <td className="num">{line.item && net ? figure(net) : ''}</td>
      <td>
        {line.item && (
          <button className="plain" aria-label={`Take line ${position} off`} title="Take the line off" onClick={onRemove}>
            ×
          </button>
        )}
      </td>
    </tr>
  );
}
