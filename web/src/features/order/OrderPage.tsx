import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { date, figure, isZero, trim, Words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Waiting } from '../../shared/ui';
import { OrderMoney, GoodsBack, returnOf } from '../billing';
import { Attachments, DetailsLine, StartFrom } from '../document';
import {
  ApprovalRow,
  DecisionBar,
  FindingRow,
  HistoryList,
  Position,
  Remedies,
  SheetLines,
  sheetQuery,
  type Sheet,
} from '../review';
import { ToDo } from '../unwind';
import { Versions } from './Versions';
import { figuresQuery } from './api';

const CHANGEABLE = ['DRAFT', 'HELD', 'CLEARED'];

/** An order to read: its situation, lines, findings, papers and history. */
export function OrderPage() {
  const { number = '' } = useParams();
  const query = useQuery(sheetQuery(number));
  const { may } = useSession();
  const navigate = useGo();
  const [settled, setSettled] = useState(false);
  const sheet = query.data;
  const canChange = !!sheet && CHANGEABLE.includes(sheet.order.state) && may('ENTER');
  const back = sheet?.documents.some((document) => document.kind === 'DISPATCH' && document.state === 'DEPARTED')
    ? returnOf('ORDER', number)
    : null;
  useKeys({
    b: back ? () => navigate(back) : undefined,
    e: canChange ? () => navigate(`/orders/${number}/change`) : undefined,
  });
  if (!sheet) return <Waiting query={query} />;
  const { order } = sheet;
  const findings = sheet.findings.filter((finding) => settled || finding.state !== 'SETTLED');
  const hidden = sheet.findings.length - findings.length;
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1>
              Order <span className="mono">{order.number}</span> · {order.customerName}
            </h1>
            <span className="muted nowrap">
              {Words(order.state)} ·{' '}
              <StartFrom
                kind="ORDER"
                number={order.number}
                customer={order.customer}
                customerName={order.customerName}
              />
              <GoodsBack to={back} />
            </span>
          </div>
          <p className="situation">{sheet.sentence}</p>
          <Measures sheet={sheet} />
          <div className="fields columns-x-5-1fr">
            <Fact label="Customer PO">{order.po ? <span className="mono">{order.po}</span> : '–'}</Fact>
            <Fact label="Ordered">{date(order.orderedOn)}</Fact>
            <Fact label="Requested">{date(order.requestedOn)}</Fact>
            <Fact label="Kind">{Words(order.kind)}</Fact>
            <Fact label="Entered by">
              {order.author}
              {order.lastEditor !== order.author && `, changed by ${order.lastEditor}`}
            </Fact>
          </div>
          <DetailsLine details={order.details} />
          {order.remark && <p className="muted">{order.remark}</p>}
          <SheetLines sheet={sheet} />
          <div className="totals">
            <span>
              net <b>{figure(order.net)}</b>
            </span>
            {order.vatBands.map((band) => (
              <span key={band.category + band.rate}>
                VAT {band.category} {Number(band.rate)} % <b>{figure(band.tax)}</b>
              </span>
            ))}
            <span>
              gross <b>{figure(order.gross)}</b>
            </span>
          </div>
          <Figures number={order.number} />
          {order.missing.map((missing) => (
            <div className="problem" key={missing.field}>
              To submit it: {missing.expected}.
            </div>
          ))}
          <div className="above-16">
            {sheet.approval && <ApprovalRow approval={sheet.approval} />}
            {findings.map((finding) => (
              <FindingRow key={finding.check} finding={finding} sheet={sheet} />
            ))}
            <Remedies sheet={sheet} />
            {hidden > 0 && (
              <button className="plain small" onClick={() => setSettled(true)}>
                Show {hidden} settled {hidden === 1 ? 'finding' : 'findings'}
              </button>
            )}
          </div>
        </div>
        <DecisionBar sheet={sheet}>
          {canChange && (
            <Link className="button" to={`/orders/${order.number}/change`}>
              Change <kbd>E</kbd>
            </Link>
          )}
        </DecisionBar>
      </div>
      <aside>
        <ToDo order={order.number} />
        <section className="below-20">
          <h2>Papers</h2>
          {sheet.documents.length === 0 && <div className="muted">None yet.</div>}
          {sheet.documents.map((document) => (
            <div className="pair" key={document.number}>
              <span>
                {Words(document.kind)} <Doc kind={document.kind} number={document.number} />
              </span>
              <span className="muted">
                {Words(document.state).toLowerCase()}
                {document.amount != null && ` · ${figure(document.amount)}`}
              </span>
            </div>
          ))}
        </section>
        <div className="below-20">
          <Position name={`${order.customerName} now`} position={sheet.position} call={sheet.call} />
        </div>
        {order.state !== 'DRAFT' && <OrderMoney sheet={sheet} />}
        <Attachments owner="orders" number={order.number} />
        <Versions number={order.number} />
        <HistoryList sheet={sheet} />
      </aside>
    </div>
  );
}

const lines = (of: number[]) => `${of.length === 1 ? 'line' : 'lines'} ${of.join(', ')}`;

/** What the order brings to those who may see that, and what it weighs and fills: less what was cancelled, before returns. */
function Figures({ number }: { number: string }) {
  const figures = useQuery(figuresQuery(number)).data;
  if (!figures) return null;
  const { margin, marginPercent, withoutCost, weight, withoutWeight, volume, withoutVolume } = figures;
  const missing = [
    ...(withoutCost?.length ? [`cost of ${lines(withoutCost)}`] : []),
    ...(withoutWeight.length ? [`weight of ${lines(withoutWeight)}`] : []),
    ...(withoutVolume.length ? [`volume of ${lines(withoutVolume)}`] : []),
  ];
  return (
    <div className="totals muted">
      {margin !== null && (
        <span>
          gross margin <b>{figure(margin)}</b>
          {marginPercent !== null && ` (${figure(marginPercent)} %)`}
        </span>
      )}
      {!isZero(weight) && (
        <span>
          weight <b>{trim(weight)}</b> kg
        </span>
      )}
      {!isZero(volume) && (
        <span>
          volume <b>{trim(volume)}</b> m³
        </span>
      )}
      {missing.length > 0 && <span className="small">not known: {missing.join(', ')}</span>}
    </div>
  );
}

function Fact({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div>
      <div className="muted small">{label}</div>
      <div>{children}</div>
    </div>
  );
}

/** Shipped, billed, paid: always as the documents say. */
function Measures({ sheet }: { sheet: Sheet }) {
  const flows = sheet.flows.filter((flow) => sheet.order.lines.some((line) => line.no === flow.no && line.item));
  const open = (measure: 'toShip' | 'toBill') => flows.filter((flow) => !isZero(flow[measure])).length;
  const of = (count: number, what: string, none: string) =>
    count === 0 ? none : `${count} of ${flows.length} lines ${what}`;
  const invoices = sheet.documents.filter((document) => document.kind === 'INVOICE' && document.state !== 'REVERSED');
  const unpaid = invoices.filter((invoice) => invoice.state !== 'PAID').length;
  return (
    <div className="facts">
      <div>{of(open('toShip'), 'still to ship', 'nothing to ship')}</div>
      <div>{of(open('toBill'), 'to bill', 'nothing to bill')}</div>
      <div>
        {invoices.length === 0
          ? 'not billed yet'
          : unpaid === 0
            ? 'all paid'
            : `${unpaid} of ${invoices.length} invoices not paid`}
      </div>
    </div>
  );
}
