import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { capital, date, figure, price, trim } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Mark, ProblemNote, tell } from '../../shared/ui';
import { Discount } from '../../shared/ui/Price';
import { Table } from '../../shared/ui/Table';
import { remediesQuery, useRemedy, type Remedy, type Sheet } from './api';

/** What would clear the open findings; each shows the order as it would be, and can then be done. */
export function Remedies({ sheet }: { sheet: Sheet }) {
  const [shown, setShown] = useState<string | null>(null);
  const open = sheet.findings.some((finding) => finding.state === 'OPEN');
  const query = useQuery({ ...remediesQuery(sheet.order.number), enabled: open });
  const remedies = query.data ?? [];
  if (!open || remedies.length === 0) return null;
  return (
    <section className="finding" aria-label="Remedies">
      <div>
        <b>Remedies</b>
        <div className="muted small">each run through all checks</div>
      </div>
      <div>
        {remedies.map((remedy) => {
          const key = `${remedy.check} ${remedy.kind}`;
          return (
            <div key={key} className="inset-2px-0">
              <button
                className="plain"
                aria-expanded={shown === key}
                onClick={() => setShown(shown === key ? null : key)}
              >
                {capital(remedy.sentence)}
              </button>{' '}
              <span className="muted small">
                {remedy.leftOpen.length > 0 &&
                  (remedy.clears
                    ? `stays flagged: ${remedy.leftOpen.join(', ')}`
                    : `still held: ${remedy.leftOpen.join(', ')}`)}
              </span>
              {shown === key && <AsItWouldBe sheet={sheet} remedy={remedy} onClose={() => setShown(null)} />}
            </div>
          );
        })}
      </div>
    </section>
  );
}

function AsItWouldBe({ sheet, remedy, onClose }: { sheet: Sheet; remedy: Remedy; onClose: () => void }) {
  const { may } = useSession();
  const apply = useRemedy(sheet);
  const changeable = sheet.order.state === 'HELD' || sheet.order.state === 'CLEARED' || sheet.order.state === 'DRAFT';
  if (!remedy.order) {
    return (
      <div className="as-would-be">
        Needs money:{' '}
        <Link to={`/billing/receive?customer=${encodeURIComponent(sheet.order.customer)}`}>
          record a payment of {figure(remedy.amount)}
        </Link>
        {'; the order is checked again when it is posted.'}
      </div>
    );
  }
  const { rest } = remedy;
  return (
    <div className="as-would-be">
      <Lines before={sheet.order.lines} after={remedy.order.lines} />
      {rest.length > 0 && (
        <>
          <div className="muted small above-6">On a separate order</div>
          <Lines before={[]} after={rest} />
        </>
      )}
      <div className="totals around-6px-0">
        <span>
          gross <span className="muted">{figure(sheet.order.gross)}</span> → <b>{figure(remedy.order.gross)}</b>
        </span>
      </div>
      <ProblemNote problem={apply.error} />
      <div className="row gap-10 aligned-center">
        <button
          className="button first"
          disabled={apply.isPending || !changeable || !may('ENTER')}
          onClick={() =>
            apply.mutate(remedy, {
              onSuccess: (order) => {
                tell(`Order ${order.number} was changed: ${remedy.sentence}.`);
                onClose();
              },
            })
          }
        >
          Apply the change
        </button>
        <button className="button" onClick={onClose}>
          Cancel
        </button>
        <span className="muted small">
          {remedy.leftOpen.length > 0 && (
            <>
              <Mark of={remedy.clears ? 'caution' : 'stop'} />
              then {remedy.clears ? 'flagged' : 'held'}: {remedy.leftOpen.join(', ')}
            </>
          )}
          {remedy.leftOpen.length === 0 && 'no open findings then'}
        </span>
      </div>
    </div>
  );
}

/** Lines as they are and as they would be; what differs is struck and written anew. */
function Lines({ before, after }: { before: Schemas['LineView'][]; after: Schemas['LineView'][] }) {
  const gone = before.filter((line) => !after.some((one) => one.no === line.no));
  const was = (line: Schemas['LineView']) => before.find((one) => one.no === line.no);
  const changed = <T,>(old: T | undefined, now: T, told: (value: T) => string) => (
    <>
      {old !== undefined && told(old) !== told(now) && <s className="muted">{told(old)}</s>} {told(now)}
    </>
  );
  return (
    <Table
      caption="Lines before and after"
      className="inset"
      isUnheaded
      of={[...after, ...gone]}
      keyOf={(line) => line.no}
      rowOf={(line) => (gone.includes(line) ? { className: 'dropped', style: { textDecoration: 'line-through' } } : {})}
      columns={[
        { num: true, className: 'wide-30', cell: (line) => line.no },
        {
          cell: (line) => (
            <>
              {line.description} <span className="mono muted small">{line.item}</span>
            </>
          ),
        },
        { num: true, cell: (line) => changed(was(line)?.quantity, line.quantity, trim) },
        {
          num: true,
          cell: (line) => (
            <>
              {changed(was(line)?.price, line.price, price)}
              <Discount of={line.discount} />
            </>
          ),
        },
        { num: true, cell: (line) => changed(was(line)?.requestedOn, line.requestedOn, date) },
        { num: true, cell: (line) => changed(was(line)?.net, line.net, figure) },
      ]}
    />
  );
}
