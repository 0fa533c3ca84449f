import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Problem, type Schemas } from '../../shared/api/http';
import { date, isZero, plain, trim, words } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, keepReason, More, ProblemNote, ReasonInput, tell, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { useWritten } from '../../shared/written';
import { Attachments } from '../document';
import { CustomerLook, ItemLook } from '../masterdata';
import { ReasonChoice, rulesQuery } from '../rules';
import { returnableQuery, unexpectedQuery } from './api';

type Unexpected = Schemas['UnexpectedView'];

/** Goods that came and that no return expects: recorded by the warehouse, decided on by a controller. */
export function UnexpectedGoods() {
  const { may } = useSession();
  const [all, setAll] = useState(false);
  const [taking, setTaking] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const query = useInfiniteQuery(unexpectedQuery(!all));
  if (!query.data) return <Waiting query={query} />;
  const rows = query.data.pages.flatMap((page) => page.rows);
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>{all ? 'Unexpected goods' : 'Unexpected goods waiting for a decision'}</h1>
          <label className="muted">
            <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} /> include decided
          </label>
        </div>
        <p className="muted">They are in no stock and no account until decided.</p>
        {rows.length === 0 && <Empty>{all ? 'No unexpected goods.' : 'Nothing waits for a decision.'}</Empty>}
        {rows.map((row) => (
          <section key={row.number} className="unexpected">
            <div className="page-head">
              <h2>
                <span className="mono">{row.number}</span> · {trim(row.quantity)} × {row.itemName}{' '}
                <span className="mono muted small">{row.item}</span>
              </h2>
              <span className="muted small nowrap">
                {date(row.on)}, received by {row.by}, {row.days === 1 ? '1 day' : `${row.days} days`}
              </span>
            </div>
            <div>
              {row.customer ? (
                <Doc kind="CUSTOMER" number={row.customer} />
              ) : (
                <span className="error">customer unknown</span>
              )}{' '}
              {row.customerName} {row.sender && `· on the label: ${row.sender}`}
              {row.ofReturn && (
                <>
                  {' '}
                  · came with <Doc kind="RETURN" number={row.ofReturn} />
                </>
              )}
              {row.remark && <span className="muted"> · {row.remark}</span>}
            </div>
            {row.decisions.map((decision, index) => (
              <div key={index} className="small">
                {trim(decision.quantity)} {decision.kind === 'ADMITTED' ? 'taken back' : words(decision.kind)} on{' '}
                {date(decision.on)} by {decision.by}: {decision.reason}{' '}
                {decision.returnNumber && <Doc kind="RETURN" number={decision.returnNumber} />}
              </div>
            ))}
            {open === row.number ? (
              <Decide goods={row} onDone={() => setOpen(null)} />
            ) : (
              !isZero(row.left) && (
                <button className="button above-6" onClick={() => setOpen(row.number)}>
                  {may('DECIDE') ? `Decide on ${trim(row.left)}` : 'Open'}
                </button>
              )
            )}
          </section>
        ))}
        <More query={query} />
      </div>
      <div className="bar">
        {may('MOVE_GOODS') && (
          <button className="button first" onClick={() => setTaking(true)}>
            Record goods
          </button>
        )}
        {!may('DECIDE') && <span className="muted small">A controller or the finance lead decides.</span>}
      </div>
      {taking && <TakeIn onClose={() => setTaking(false)} />}
    </>
  );
}

/** What came, from whom: with a return in place of what was expected, or on its own. */
export function TakeIn({
  ofReturn,
  customer,
  onClose,
}: {
  ofReturn?: string;
  customer?: { code: string; name: string };
  onClose: () => void;
}) {
  const written = useWritten({
    customer: customer ?? { code: '', name: '' },
    item: { code: '', name: '' },
    sender: '',
    quantity: '',
    remark: '',
  });
  const { customer: who, item, sender, quantity, remark } = written.values;
  const take = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/unexpected-goods', {
          body: {
            customer: who.code || undefined,
            sender: sender.trim() || undefined,
            ofReturn,
            item: item.code,
            quantity: quantity || '0',
            remark: remark.trim() || undefined,
          },
          ...once(),
        }),
      ),
    onSuccess: (taken) => {
      tell(`Recorded as ${taken.number}; it waits for a decision.`);
      onClose();
    },
    onError: written.refused,
  });
  return (
    <Dialog
      onClose={onClose}
      size="lg"
      title={ofReturn ? `Other goods came with ${ofReturn}` : 'Record unexpected goods'}
    >
      <DialogForm
        action="Record"
        ready={item.code !== ''}
        busy={take.isPending}
        problem={take.error}
        onGiven={() => take.mutate()}
        onClose={onClose}
      >
        <div className="fields columns-1fr-1fr">
          <Field of="Item received" label="Item" error={written.wrong('item')}>
            <ItemLook
              label="Item received"
              autoFocus
              shown={item.name}
              placeholder="name or code"
              onTake={(hit) => written.of('item').onChange({ code: hit.code, name: hit.name })}
            />
          </Field>
          <Field of="came-quantity" label="Quantity" error={written.wrong('quantity')}>
            <FigureInput id="came-quantity" label="Quantity" {...written.of('quantity')} />
          </Field>
          <Field of="Customer" label="Customer, if known" error={written.wrong('customer')}>
            <CustomerLook
              label="Customer"
              shown={who.name}
              onTake={(hit) => written.of('customer').onChange({ code: hit.code, name: hit.name })}
            />
          </Field>
          <Field of="came-sender" label="Sender on the label">
            <TextLine id="came-sender" maxLength={200} {...written.of('sender')} />
          </Field>
          <Field of="came-remark" label="Serial number, condition, enclosures" className="spans-1-1">
            <TextLine id="came-remark" maxLength={2000} {...written.of('remark')} />
          </Field>
        </div>
      </DialogForm>
    </Dialog>
  );
}

/** Back on a return, with the dispatch lines on which they had left; or away. */
function Decide({ goods, onDone }: { goods: Unexpected; onDone: () => void }) {
  const { may } = useSession();
  const decides = may('DECIDE');
  const [who, setWho] = useState({ code: goods.customer ?? '', name: goods.customerName ?? '' });
  const lines = useInfiniteQuery(returnableQuery({ customer: who.code || undefined, item: goods.item }));
  const reasons = useQuery(rulesQuery).data?.returns.reasons ?? [];
  const [quantities, setQuantities] = useState<Record<string, string>>({});
  const [code, setCode] = useState('');
  const [away, setAway] = useState(plain(goods.left));
  const [reason, setReason] = useState('');
  useUnsaved(reason !== '' || Object.keys(quantities).length > 0);
  const chosen = Object.entries(quantities).filter(([, quantity]) => !isZero(quantity));
  const path = { path: { number: goods.number } };
  const decide = useMutation<unknown, Problem, 'admit' | 'SENT_BACK' | 'SCRAPPED'>({
    mutationFn: (what) =>
      what === 'admit'
        ? answer(
            client.POST('/api/unexpected-goods/{number}/admissions', {
              params: path,
              body: {
                version: goods.version,
                lines: chosen.map(([key, quantity]) => {
                  const [dispatch = '', line] = key.split('/');
                  return { dispatch, line: Number(line), quantity };
                }),
                returnReason: code,
                reason: reason.trim(),
              },
              ...once(),
            }),
          )
        : answer(
            client.POST('/api/unexpected-goods/{number}/turnings-away', {
              params: path,
              body: { version: goods.version, away: what, quantity: away || '0', reason: reason.trim() },
              ...once(),
            }),
          ),
    onSuccess: (_, what) => {
      keepReason(reason.trim());
      tell(what === 'admit' ? 'Taken back on a return, into inspection.' : 'Decided.');
      onDone();
    },
  });
  const keyOfLine = (row: (typeof rows)[number]) => `${row.dispatch}/${row.line}`;
  const rows = lines.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div className="two above-8">
      {decides && (
        <Field of="decide-reason" label="Reason for the decision" className="spans-1-1 up-to-560">
          <ReasonInput id="decide-reason" value={reason} onChange={setReason} />
        </Field>
      )}
      <section>
        <h2>Accept as a return</h2>
        <Field of="Customer" label="Customer" className="wide-280 below-8">
          <CustomerLook
            label="Customer"
            shown={who.name}
            onTake={(hit) => setWho({ code: hit.code, name: hit.name })}
          />
        </Field>
        {who.code && rows.length === 0 && lines.data && (
          <p className="muted">No {goods.itemName} shipped to the customer can be returned.</p>
        )}
        {rows.length > 0 && (
          <Table
            caption="Accept as a return"
            className="inset"
            isUnheaded
            of={rows}
            keyOf={keyOfLine}
            columns={[
              {
                className: 'nowrap',
                cell: (row) => (
                  <>
                    {date(row.left)}{' '}
                    {row.daysLate > 0 && <span className="error small">{row.daysLate} days too late</span>}
                  </>
                ),
              },
              { cell: (row) => <Doc kind="DISPATCH" number={row.dispatch} /> },
              { num: true, className: 'nowrap', cell: (row) => <>of {trim(row.returnable)}</> },
              {
                num: true,
                className: 'wide-80',
                cell: (row) => (
                  <FigureInput
                    label={`Quantity on ${row.dispatch}`}
                    value={quantities[keyOfLine(row)] ?? ''}
                    onChange={(to) => setQuantities({ ...quantities, [keyOfLine(row)]: to })}
                  />
                ),
              },
            ]}
          />
        )}
        <More query={lines} />
        <div className="wide-280 around-8px-0-12px">
          <ReasonChoice id="admit-reason" label="Reason" value={code} of={reasons} onChange={setCode} />
        </div>
        {decides && (
          <button
            className="button first"
            disabled={chosen.length === 0 || !code || !reason.trim() || decide.isPending}
            onClick={() => decide.mutate('admit')}
          >
            Accept as a return
          </button>
        )}
      </section>
      <section>
        <h2>Dispose of it</h2>
        <Field of="away-quantity" label="Quantity" className="wide-120 below-12">
          <FigureInput id="away-quantity" label="Quantity" value={away} onChange={setAway} />
        </Field>
        {decides && (
          <div className="row gap-10 below-16">
            <button
              className="button"
              disabled={!reason.trim() || decide.isPending}
              onClick={() => decide.mutate('SENT_BACK')}
            >
              Send back
            </button>
            <button
              className="button"
              disabled={!reason.trim() || decide.isPending}
              onClick={() => decide.mutate('SCRAPPED')}
            >
              Scrap
            </button>
          </div>
        )}
        <Attachments owner="unexpected-goods" number={goods.number} />
      </section>
      <div className="spans-1-1">
        <ProblemNote problem={decide.error} />
        <button className="plain" onClick={onDone}>
          Close
        </button>
      </div>
    </div>
  );
}
