import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, shortDate, trim, Words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Mark, Ring, Waiting } from '../../shared/ui';
import { type Column, Table } from '../../shared/ui/Table';
import { GoodsBack, returnOf } from '../billing';
import { StartFrom, startable } from '../document';
import { Rail } from './Rail';

type Trail = Schemas['TrailView'];
type Kind = Schemas['WayView']['kind'];

const UNDOABLE: string[] = [
  'ORDER',
  'DISPATCH',
  'INVOICE',
  'RETURN',
  'CREDIT_NOTE',
  'PAYMENT',
  'DEPOSIT',
  'REFUND',
  'WRITE_OFF',
];

const ASPECTS: [string, string][] = [
  ['GOODS', 'goods'],
  ['MONEY', 'money'],
  ['DECISION', 'decisions'],
];

/** A chain as a statement: rows in the order of time, running balances, units, ledger, proof. */
export function TrailPage() {
  const params = useParams();
  const kind = params.kind as Kind;
  const number = params.number ?? '';
  const path = { kind, number };
  const query = useQuery({
    queryKey: keyOf('trail', kind, number),
    queryFn: () => answer(client.GET('/api/trails/{kind}/{number}', { params: { path } })),
  });
  const books = useSession().reads('BOOKS');
  const proof = useQuery({
    queryKey: keyOf('proof', kind, number),
    queryFn: () => answer(client.GET('/api/proofs/{kind}/{number}', { params: { path } })),
    enabled: books,
  });
  const [shown, setShown] = useState(['GOODS', 'MONEY']);
  const [lit, setLit] = useState<string[]>([]);
  const navigate = useGo();
  const root = query.data?.roots[0];
  // what one came from is undone from here; whatever can't be, by its order
  const undo = UNDOABLE.includes(kind) ? `/unwind/${kind}/${number}` : root ? `/unwind/ORDER/${root}` : undefined;
  const back = returnOf(kind, number);
  useKeys({
    b: back ? () => navigate(back) : undefined,
    u: undo ? () => navigate(undo) : undefined,
    enter: root ? () => navigate(`/orders/${root}`) : undefined,
  });
  const trail = query.data;
  if (!trail) return <Waiting query={query} />;
  const rows = trail.rows.filter((row) => row.aspect === 'ORDER' || shown.includes(row.aspect));
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Trail of {Words(trail.start.kind).toLowerCase()} <span className="mono">{trail.start.number}</span> ·{' '}
            {trail.customerName}
          </h1>
          <span className="muted nowrap whole">
            {ASPECTS.map(([aspect, label]) => (
              <label key={aspect} className="before-10">
                <input
                  type="checkbox"
                  checked={shown.includes(aspect)}
                  onChange={(e) => setShown(e.target.checked ? [...shown, aspect] : shown.filter((a) => a !== aspect))}
                />{' '}
                {label}
              </label>
            ))}
            <button className="plain" onClick={() => window.print()}>
              Print
            </button>
            {startable(trail.start.kind) && (
              <>
                {' · '}
                <StartFrom
                  kind={trail.start.kind}
                  number={trail.start.number}
                  customer={trail.customer}
                  customerName={trail.customerName}
                />
              </>
            )}
            {undo && (
              <>
                {' · '}
                <Link to={undo}>
                  Unwind <kbd>U</kbd>
                </Link>
              </>
            )}
            <GoodsBack to={back} />
          </span>
        </div>
        <Facts trail={trail} />
        {trail.stillToDo.length > 0 && (
          <p>
            <b>Still to do:</b>{' '}
            {trail.stillToDo.map((todo, index) => (
              <span key={index}>
                {index > 0 && ' · '}
                <Doc kind={todo.document.kind} number={todo.document.number} /> {todo.what}
              </span>
            ))}
          </p>
        )}
        <Carried kind={trail.start.kind} number={trail.start.number} />
        <Table
          caption="Trail"
          className="inset"
          of={rows}
          keyOf={(_, index) => index}
          rowOf={(row) => ({
            className: `${row.dropped ? 'dropped' : ''}${row.units.some((u) => u.lines.some((l) => lit.includes(l))) ? ' at' : ''}`,
            style: { height: 31 },
          })}
          columns={[
            { head: 'Date', className: 'nowrap', cell: (row) => shortDate(row.date) },
            { width: 'rail', className: 'rail', cell: (row, index) => <Rail rows={rows} row={row} at={index} /> },
            {
              head: 'Document',
              className: 'nowrap',
              cell: (row) =>
                row.aspect === 'DECISION' ? (
                  <span className="muted">
                    {Words(row.document.kind)} {row.document.number}
                  </span>
                ) : (
                  <DocumentName document={row.document} />
                ),
            },
            {
              head: 'Event',
              cell: (row) => (
                <>
                  {row.what} <span className="muted small">by {row.by}</span>
                </>
              ),
            },
            {
              head: 'Units',
              className: 'nowrap',
              does: (row) => ({
                onMouseEnter: () => setLit(row.units.flatMap((u) => u.lines)),
                onMouseLeave: () => setLit([]),
              }),
              cell: (row) => row.units.map((unit) => `${trim(unit.quantity)} ${MEASURE[unit.measure]}`).join(', '),
            },
            { head: 'Billed', num: true, cell: (row) => (isZero(row.billed) ? '' : figure(row.billed)) },
            { head: 'Settled', num: true, cell: (row) => (isZero(row.settled) ? '' : figure(row.settled)) },
            { head: <>Open {currency()}</>, num: true, cell: (row) => orDash(row.open) },
          ]}
        />
        <div className="two above-20">
          <Units trail={trail} lit={lit} onLight={setLit} />
          {trail.ledger && <Ledger lines={trail.ledger} statements={proof.data?.statements} />}
        </div>
      </div>
    </div>
  );
}

const MEASURE: Record<string, string> = {
  ORDERED: 'ordered',
  CANCELLED: 'cancelled',
  STAGED: 'staged',
  DISPATCHED: 'shipped',
  BILLED: 'billed',
  RETURNED: 'returned',
  CREDITED: 'credited',
};

function DocumentName({ document }: { document: Schemas['TrailDocumentView'] }) {
  const name = (
    <>
      {Words(document.kind)} <span className="mono">{document.number}</span>
    </>
  );
  const to =
    document.kind === 'ORDER'
      ? `/orders/${document.number}`
      : document.kind === 'RETURN'
        ? `/returns/return/${document.number}`
        : document.kind === 'CREDIT_NOTE'
          ? `/billing/credit-note/${document.number}`
          : document.kind === 'WRITE_OFF'
            ? `/billing/write-off/${document.number}`
            : document.kind === 'INVOICE' || document.kind === 'DISPATCH' || document.kind === 'PAYMENT'
              ? `/ledger/journal?document=${document.number}`
              : null;
  return to ? <Link to={to}>{name}</Link> : name;
}

function Facts({ trail }: { trail: Trail }) {
  const only = trail.flows[0];
  const sum = (of: (flow: Schemas['FlowView']) => string) => trail.flows.filter((flow) => !isZero(of(flow))).length;
  const shipped = sum((f) => f.toShip);
  const billing = sum((f) => f.toBill);
  const undone = trail.rows.filter((row) => row.undoes).map((row) => row.document.number);
  const count = (kind: string) =>
    trail.documents.filter((document) => document.kind === kind && !undone.includes(document.number)).length;
  const paidBy = count('PAYMENT');
  const ahead = count('DEPOSIT');
  const credits = count('CREDIT_NOTE');
  const written = count('WRITE_OFF');
  return (
    <div className="facts">
      <div>
        <b>
          {only && trail.flows.length === 1
            ? `${trim(only.dispatched)} of ${trim(only.ordered)} shipped`
            : `${trail.flows.length} lines`}
        </b>
        <div className="muted small">
          {shipped === 0 ? 'nothing to ship' : `${shipped} ${shipped === 1 ? 'line' : 'lines'} to ship`}
        </div>
      </div>
      <div>
        <b>
          {currency()} {figure(trail.billed)} billed
        </b>
        <div className="muted small">
          {billing === 0 ? 'nothing to bill' : `${billing} ${billing === 1 ? 'line' : 'lines'} to bill`}
        </div>
      </div>
      <div>
        <b>
          {currency()} {figure(trail.settled)} settled
        </b>
        <div className="muted small">
          {[
            paidBy === 0 ? '' : paidBy === 1 ? 'by one payment' : `by ${paidBy} payments`,
            ahead === 0 ? '' : ahead === 1 ? 'one deposit' : `${ahead} deposits`,
            credits === 0 ? '' : credits === 1 ? 'one credit note' : `${credits} credit notes`,
            written === 0 ? '' : written === 1 ? 'one write-off' : `${written} write-offs`,
          ]
            .filter(Boolean)
            .join(', ') || 'nothing yet'}
        </div>
      </div>
      <div>
        <b>
          {currency()} {figure(trail.open)} open
        </b>
        <div className="muted small">{trail.nextDue ? `due ${date(trail.nextDue)}` : 'nothing due'}</div>
      </div>
    </div>
  );
}

type Flow = Trail['flows'][number];
const lineOf = (flow: Flow) => `${flow.order}/${flow.line}`;
const units = (
  head: string,
  of:
    | 'ordered'
    | 'cancelled'
    | 'reserved'
    | 'staged'
    | 'dispatched'
    | 'returned'
    | 'billed'
    | 'credited'
    | 'toShip'
    | 'toBill',
): Column<Flow> => ({ head, num: true, cell: (flow) => orDash(flow[of]) });

function Units({ trail, lit, onLight }: { trail: Trail; lit: string[]; onLight: (lines: string[]) => void }) {
  const back = trail.flows.some((flow) => !isZero(flow.returned) || !isZero(flow.credited));
  return (
    <section>
      <h2>Units</h2>
      <Table
        caption="Units"
        className="inset"
        of={trail.flows}
        keyOf={lineOf}
        rowOf={(flow) => ({
          className: lit.includes(lineOf(flow)) ? 'at' : '',
          onMouseEnter: () => onLight([lineOf(flow)]),
          onMouseLeave: () => onLight([]),
        })}
        columns={[
          {
            head: 'Line',
            cell: (flow) => (
              <>
                {trail.roots.length > 1 && <span className="mono muted">{flow.order} </span>}
                {flow.line} {flow.description}
              </>
            ),
          },
          units('Ordered', 'ordered'),
          units('Cancelled', 'cancelled'),
          units('Reserved', 'reserved'),
          units('Staged', 'staged'),
          units('Shipped', 'dispatched'),
          back && units('Returned', 'returned'),
          units('Billed', 'billed'),
          back && units('Credited', 'credited'),
          units('To ship', 'toShip'),
          units('To bill', 'toBill'),
        ]}
      />
      {trail.neighbours.length > 0 && (
        <div className="muted small above-6">
          Other documents met here:{' '}
          {trail.neighbours.map((one) => (
            <Link key={one.number} className="mono before-8" to={`/trail/${one.kind}/${one.number}`}>
              {one.number}
              {one.amount !== null && ` (${figure(one.amount)} of its credit pays here)`}
            </Link>
          ))}
        </div>
      )}
    </section>
  );
}

function Ledger({
  lines,
  statements,
}: {
  lines: Schemas['AccountView'][];
  statements: Schemas['StatementView'][] | undefined;
}) {
  const failing = statements?.filter((statement) => !statement.holds) ?? [];
  return (
    <section>
      <h2>Ledger</h2>
      {lines.length === 0 && <div className="muted">Nothing posted yet.</div>}
      {lines.map((line) => (
        <div className="pair line-below" key={line.account}>
          <span>
            <span className="mono muted small">{line.account}</span> {line.name}
          </span>
          <span>{orDash(line.balance)}</span>
        </div>
      ))}
      {statements && (
        <div className="above-8">
          <Ring holds={failing.length === 0} />
          {failing.length === 0
            ? `All ${statements.length} statements hold for this trail`
            : `${failing.length} of ${statements.length} statements fail`}
          {failing.flatMap((statement) =>
            statement.failures.map((failure) => (
              <div key={failure.sentence} className="problem">
                <Mark of="stop" />
                {failure.sentence}
              </div>
            )),
          )}
        </div>
      )}
    </section>
  );
}

/** What the orders of a dispatch or an invoice said of themselves when it was made. */
function Carried({ kind, number }: { kind: string; number: string }) {
  const path = { params: { path: { number } } };
  const { data = [] } = useQuery({
    queryKey: keyOf('carried', kind, number),
    queryFn: async () =>
      (kind === 'DISPATCH'
        ? await answer(client.GET('/api/dispatches/{number}', path))
        : await answer(client.GET('/api/invoices/{number}', path))
      ).details,
    enabled: kind === 'DISPATCH' || kind === 'INVOICE',
  });
  const said = data.filter((one) => one.externalReference || one.shipTo || one.fields.length > 0);
  return (
    <>
      {said.map((one) => (
        <div key={one.order} className="small breaks below-6">
          {data.length > 1 && <span className="mono">{one.order} </span>}
          {[
            one.shipTo && `ships to ${one.shipTo}`,
            one.externalReference && `external reference ${one.externalReference}`,
            ...one.fields.map((field) => `${field.label} ${field.value}`),
          ]
            .filter(Boolean)
            .join(' · ')}
        </div>
      ))}
    </>
  );
}
