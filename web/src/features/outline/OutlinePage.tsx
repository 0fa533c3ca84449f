import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { date, figure, isZero, orDash, price, trim, words } from '../../shared/format';
import { may, useSession } from '../../shared/session';
import { Doc, Mark, ProblemNote, ReasonDialog, tell, tellProblem, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { DetailsLine, StartFrom } from '../order';
import { refreshAll } from '../review';
import { closeOutline, makeOrder, outlineQuery, skipDue, WORDS, type Outline } from './api';
import { useGo } from '../../shared/navigation';

/** A quote, blanket order or recurring order: what was agreed, what became of it, and the next order from it. */
export function OutlinePage() {
  const { number = '' } = useParams();
  const query = useQuery(outlineQuery(number));
  const outline = query.data;
  if (!outline) return <Waiting query={query} />;
  return <Shown key={outline.version} outline={outline} />;
}

function Shown({ outline }: { outline: Outline }) {
  const { role } = useSession();
  const navigate = useGo();
  const { one, make: makes, end } = WORDS[outline.kind];
  const blanket = outline.kind === 'BLANKET_ORDER';
  const open = outline.state === 'OPEN' && !outline.expired && may(role, 'enter');
  const dueCalls = outline.schedule.filter((call) => !call.order && outline.due);
  const [asked, setAsked] = useState<Record<number, string>>(
    blanket ? {} : Object.fromEntries(outline.lines.map((line) => [line.no, trim(line.quantity).replaceAll(',', '')])),
  );
  const [po, setPo] = useState(outline.po);
  const [closing, setClosing] = useState(false);
  const lines = Object.entries(asked)
    .filter(([, quantity]) => quantity !== '' && !isZero(quantity))
    .map(([line, quantity]) => ({ line: Number(line), quantity }));
  const make = useMutation({
    mutationFn: (what: { due?: boolean; handIn: boolean }) =>
      makeOrder(outline.number, {
        version: outline.version,
        lines: what.due ? undefined : lines,
        po,
        handIn: what.handIn,
      }),
    onSuccess: (order) => {
      tell(`Order ${order.number} was made: ${words(order.state)}.`);
      navigate(order.state === 'DRAFT' ? `/orders/${order.number}/change` : `/orders/${order.number}`);
    },
    onSettled: refreshAll,
  });
  const close = useMutation({
    mutationFn: (reason: string) => closeOutline(outline.number, outline.version, reason),
    onSuccess: () => setClosing(false),
    onSettled: refreshAll,
  });
  const skip = useMutation({
    mutationFn: () => skipDue(outline.number, outline.version),
    onSuccess: () => tell('Passed over this time.'),
    onError: tellProblem,
    onSettled: refreshAll,
  });
  const busy = make.isPending || skip.isPending;
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1 style={{ overflowWrap: 'anywhere' }}>
              {one.replace(/^./, (first) => first.toUpperCase())} <span className="mono">{outline.number}</span> ·{' '}
              <Link to={`/customers/${encodeURIComponent(outline.customer)}`}>{outline.customerName}</Link>
            </h1>
            <span className="muted nowrap">
              {outline.expired ? 'expired' : words(outline.state)} ·{' '}
              <StartFrom
                kind={outline.kind}
                number={outline.number}
                customer={outline.customer}
                customerName={outline.customerName}
              />
            </span>
          </div>
          <p className="situation">{situation(outline)}</p>
          <DetailsLine details={outline.details} />
          {outline.remark && <p className="muted">{outline.remark}</p>}
          <table className="rows inset">
            <thead>
              <tr>
                <th className="num">Line</th>
                <th>Item</th>
                <th className="num">{blanket ? 'Agreed' : 'Quantity'}</th>
                {blanket && <th className="num">Called off</th>}
                {blanket && <th className="num">Left</th>}
                <th className="num">Price</th>
                <th className="num">Net €</th>
                {open && <th className="num">{blanket ? 'Call off now' : 'Order'}</th>}
              </tr>
            </thead>
            <tbody>
              {outline.lines.map((line) => (
                <tr key={line.no}>
                  <td className="num">{line.no}</td>
                  <td>
                    {line.description} <span className="mono muted small nowrap">{line.item}</span>
                  </td>
                  <td className="num">{trim(line.quantity)}</td>
                  {blanket && <td className="num">{orDash(trim(line.taken))}</td>}
                  {blanket && <td className="num strong">{trim(line.left)}</td>}
                  <td className="num">
                    {price(line.price)}
                    {!isZero(line.discount) && <span className="muted small"> −{trim(line.discount)} %</span>}
                  </td>
                  <td className="num">{figure(line.net)}</td>
                  {open && (
                    <td style={{ width: 96 }}>
                      <FigureInput
                        label={`Quantity of line ${line.no}`}
                        value={asked[line.no] ?? ''}
                        onChange={(text) => setAsked({ ...asked, [line.no]: text })}
                      />
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          <div className="totals">
            <span>
              net <b>{figure(outline.net)}</b>
            </span>
          </div>
          {outline.schedule.length > 0 && (
            <section style={{ marginTop: 16, maxWidth: 520 }}>
              <h2>Schedule</h2>
              {outline.schedule.map((call) => (
                <div className="pair" key={`${call.on} ${call.line}`} style={{ borderBottom: '1px solid var(--rule)' }}>
                  <span>
                    {!call.order && dueCalls.includes(call) && call.on <= (outline.nextDue ?? '') && (
                      <Mark of="caution" />
                    )}
                    {date(call.on)}: {trim(call.quantity)} of line {call.line}
                  </span>
                  <span>
                    {call.order ? <Doc kind="ORDER" number={call.order} /> : <span className="muted">to come</span>}
                  </span>
                </div>
              ))}
            </section>
          )}
          <ProblemNote problem={make.error} />
        </div>
        <div className="bar">
          {open && (
            <>
              <div className="field" style={{ width: 180 }}>
                <label htmlFor="made-po">Their PO for it</label>
                <input
                  id="made-po"
                  className="mono"
                  maxLength={120}
                  value={po}
                  onChange={(event) => setPo(event.target.value)}
                />
              </div>
              {blanket && outline.due && (
                <button
                  className="button first"
                  disabled={busy}
                  onClick={() => make.mutate({ due: true, handIn: false })}
                >
                  Call off what is due
                </button>
              )}
              <button
                className={blanket && outline.due ? 'button' : 'button first'}
                disabled={busy || lines.length === 0}
                onClick={() => make.mutate({ handIn: false })}
              >
                {makes}
              </button>
              {outline.kind === 'RECURRING_ORDER' && outline.due && (
                <button className="button" disabled={busy} onClick={() => skip.mutate()}>
                  Pass over this time
                </button>
              )}
            </>
          )}
          <span className="gap" />
          {outline.state === 'OPEN' && may(role, 'enter') && (
            <>
              <Link className="button" to={`/orders/outlines/${outline.number}/change`}>
                Change
              </Link>
              <button className="button" onClick={() => setClosing(true)}>
                {end}
              </button>
            </>
          )}
        </div>
        {closing && (
          <ReasonDialog
            title={outline.kind === 'QUOTE' ? `Quote ${outline.number} is lost` : `End ${one} ${outline.number}`}
            action={end}
            busy={close.isPending}
            problem={close.error}
            onClose={() => setClosing(false)}
            onGiven={(reason) => close.mutate(reason)}
          />
        )}
      </div>
      <aside>
        <section style={{ marginBottom: 20 }}>
          <h2>Orders from it</h2>
          {outline.orders.length === 0 && <div className="muted">None yet.</div>}
          {outline.orders.map((order) => (
            <div className="pair" key={order.number}>
              <span>
                <Doc kind="ORDER" number={order.number} /> <span className="muted">{words(order.state)}</span>
              </span>
              <span>{figure(order.net)}</span>
            </div>
          ))}
        </section>
        <section>
          <h2>What happened so far</h2>
          {outline.changes.map((change, index) => (
            <div key={index} style={{ padding: '3px 0', overflowWrap: 'anywhere' }}>
              <span className="muted small">
                {date(change.on)}, {change.by}
              </span>
              <div>{change.sentence}</div>
            </div>
          ))}
        </section>
      </aside>
    </div>
  );
}

const situation = (outline: Outline) => {
  const { one } = WORDS[outline.kind];
  if (outline.state === 'ORDERED') return `Ordered: see the order at the side.`;
  if (outline.state !== 'OPEN') return `This ${one} is ${words(outline.state)}; its reason stands at the side.`;
  if (outline.expired) return `It was valid until ${date(outline.until)}.`;
  const valid = `valid ${outline.kind === 'QUOTE' ? '' : `from ${date(outline.from)} `}until ${date(outline.until)}`;
  if (outline.kind === 'QUOTE') return `Open, ${valid}.`;
  const next = outline.nextDue
    ? outline.due
      ? `due since ${date(outline.nextDue)}`
      : `next due ${date(outline.nextDue)}`
    : 'nothing more is due';
  if (outline.kind === 'RECURRING_ORDER') return `Comes due ${outline.rhythm}, ${next}; ${valid}.`;
  return `${outline.ceiling != null ? `€ ${figure(outline.leftInValue)} of ${figure(outline.ceiling)} left in value, ` : ''}${outline.schedule.length > 0 ? `${next}, ` : ''}${valid}.`;
};
