import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, plain, trim, words } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Mark, ProblemNote, ReasonDialog, tell, tellProblem, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { priceColumn } from '../../shared/ui/Price';
import { Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { DetailsLine, StartFrom } from '../document';
import { closeAgreement, makeOrder, agreementQuery, skipDue, WORDS, type Agreement } from './api';

/** A quote, blanket order or recurring order: what was agreed, what became of it, and the next order from it. */
export function AgreementPage() {
  const { number = '' } = useParams();
  const query = useQuery(agreementQuery(number));
  const agreement = query.data;
  if (!agreement) return <Waiting query={query} />;
  return <Shown key={JSON.stringify(agreement.lines)} agreement={agreement} />;
}

function Shown({ agreement }: { agreement: Agreement }) {
  const { may } = useSession();
  const navigate = useGo();
  const { one, make: makes, end } = WORDS[agreement.kind];
  const blanket = agreement.kind === 'BLANKET_ORDER';
  const open = agreement.state === 'OPEN' && !agreement.expired && may('ENTER');
  const dueCalls = agreement.schedule.filter((call) => !call.order && agreement.due);
  const [before] = useState<Record<number, string>>(
    blanket ? {} : Object.fromEntries(agreement.lines.map((line) => [line.no, plain(line.quantity)])),
  );
  const [asked, setAsked] = useState(before);
  const [po, setPo] = useState(agreement.po);
  const saved = useUnsaved(asked !== before || po !== agreement.po);
  const [closing, setClosing] = useState(false);
  const lines = Object.entries(asked)
    .filter(([, quantity]) => quantity !== '' && !isZero(quantity))
    .map(([line, quantity]) => ({ line: Number(line), quantity }));
  const make = useMutation({
    mutationFn: (what: { due?: boolean; submit: boolean }) =>
      makeOrder(agreement.number, {
        version: agreement.version,
        lines: what.due ? undefined : lines,
        po,
        submit: what.submit,
      }),
    onSuccess: (order) => {
      tell(`Order ${order.number} was created: ${words(order.state)}.`);
      saved();
      navigate(order.state === 'DRAFT' ? `/orders/${order.number}/change` : `/orders/${order.number}`);
    },
  });
  const close = useMutation({
    mutationFn: (reason: string) => closeAgreement(agreement.number, agreement.version, reason),
    onSuccess: () => setClosing(false),
  });
  const skip = useMutation({
    mutationFn: () => skipDue(agreement.number, agreement.version),
    onSuccess: () => tell('This date is skipped.'),
    onError: tellProblem,
  });
  const busy = make.isPending || skip.isPending;
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1 className="breaks">
              {one.replace(/^./, (first) => first.toUpperCase())} <span className="mono">{agreement.number}</span> ·{' '}
              <Link to={`/customers/${encodeURIComponent(agreement.customer)}`}>{agreement.customerName}</Link>
            </h1>
            <span className="muted nowrap">
              {agreement.expired ? 'expired' : words(agreement.state)} ·{' '}
              <StartFrom
                kind={agreement.kind}
                number={agreement.number}
                customer={agreement.customer}
                customerName={agreement.customerName}
              />
            </span>
          </div>
          <p className="situation">{situation(agreement)}</p>
          <DetailsLine details={agreement.details} />
          {agreement.remark && <p className="muted">{agreement.remark}</p>}
          <Table
            caption="Lines"
            of={agreement.lines}
            keyOf={(line) => line.no}
            className="inset"
            columns={[
              { head: 'Line', num: true, cell: (line) => line.no },
              {
                head: 'Item',
                cell: (line) => (
                  <>
                    {line.description} <span className="mono muted small nowrap">{line.item}</span>
                  </>
                ),
              },
              { head: blanket ? 'Agreed' : 'Quantity', num: true, cell: (line) => trim(line.quantity) },
              blanket && { head: 'Called off', num: true, cell: (line) => orDash(trim(line.taken)) },
              blanket && { head: 'Left', num: true, className: 'strong', cell: (line) => trim(line.left) },
              priceColumn(),
              { head: <>Net {currency()}</>, num: true, cell: (line) => figure(line.net) },
              open && {
                head: blanket ? 'Call off' : 'Order',
                width: 'num',
                className: 'wide-96',
                cell: (line) => (
                  <FigureInput
                    label={`Quantity of line ${line.no}`}
                    value={asked[line.no] ?? ''}
                    onChange={(text) => setAsked({ ...asked, [line.no]: text })}
                  />
                ),
              },
            ]}
          />
          <div className="totals">
            <span>
              net <b>{figure(agreement.net)}</b>
            </span>
          </div>
          {agreement.schedule.length > 0 && (
            <section className="above-16 up-to-520">
              <h2>Schedule</h2>
              {agreement.schedule.map((call) => (
                <div className="pair line-below" key={`${call.on} ${call.line}`}>
                  <span>
                    {!call.order && dueCalls.includes(call) && call.on <= (agreement.nextDue ?? '') && (
                      <Mark of="caution" />
                    )}
                    {date(call.on)}: {trim(call.quantity)} of line {call.line}
                  </span>
                  <span>
                    {call.order ? <Doc kind="ORDER" number={call.order} /> : <span className="muted">open</span>}
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
              <Field of="made-po" label="Customer PO" className="wide-180">
                <TextLine id="made-po" className="mono" maxLength={120} value={po} onChange={setPo} />
              </Field>
              {blanket && agreement.due && (
                <button
                  className="button first"
                  disabled={busy}
                  onClick={() => make.mutate({ due: true, submit: false })}
                >
                  Call off what is due
                </button>
              )}
              <button
                className={blanket && agreement.due ? 'button' : 'button first'}
                disabled={busy || lines.length === 0}
                onClick={() => make.mutate({ submit: false })}
              >
                {makes}
              </button>
              {agreement.kind === 'RECURRING_ORDER' && agreement.due && (
                <button className="button" disabled={busy} onClick={() => skip.mutate()}>
                  Skip this date
                </button>
              )}
            </>
          )}
          <span className="gap" />
          {agreement.state === 'OPEN' && may('ENTER') && (
            <>
              <Link className="button" to={`/orders/agreements/${agreement.number}/change`}>
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
            title={agreement.kind === 'QUOTE' ? `Quote ${agreement.number} lost` : `End ${one} ${agreement.number}`}
            action={end}
            busy={close.isPending}
            problem={close.error}
            onClose={() => setClosing(false)}
            onGiven={(reason) => close.mutate(reason)}
          />
        )}
      </div>
      <aside>
        <section className="below-20">
          <h2>Orders created</h2>
          {agreement.orders.length === 0 && <div className="muted">None yet.</div>}
          {agreement.orders.map((order) => (
            <div className="pair" key={order.number}>
              <span>
                <Doc kind="ORDER" number={order.number} /> <span className="muted">{words(order.state)}</span>
              </span>
              <span>{figure(order.net)}</span>
            </div>
          ))}
        </section>
        <section>
          <h2>History</h2>
          {agreement.changes.map((change, index) => (
            <div key={index} className="inset-3px-0 breaks">
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

const situation = (agreement: Agreement) => {
  const { one } = WORDS[agreement.kind];
  if (agreement.state === 'ORDERED') return `Ordered; the order is listed on the right.`;
  if (agreement.state !== 'OPEN') return `This ${one} is ${words(agreement.state)}; the reason is on the right.`;
  if (agreement.expired) return `It was valid until ${date(agreement.until)}.`;
  const valid = `valid ${agreement.kind === 'QUOTE' ? '' : `from ${date(agreement.from)} `}until ${date(agreement.until)}`;
  if (agreement.kind === 'QUOTE') return `Open, ${valid}.`;
  const next = agreement.nextDue
    ? agreement.due
      ? `due since ${date(agreement.nextDue)}`
      : `next due ${date(agreement.nextDue)}`
    : 'nothing more is due';
  if (agreement.kind === 'RECURRING_ORDER') return `Repeats ${agreement.recurrence}, ${next}; ${valid}.`;
  return `${agreement.ceiling != null ? `${currency()} ${figure(agreement.leftInValue)} of ${figure(agreement.ceiling)} left in value, ` : ''}${agreement.schedule.length > 0 ? `${next}, ` : ''}${valid}.`;
};
