import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { date, isZero, orDash, plain, trim } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { offersOf } from '../../shared/offered';
import { useSession } from '../../shared/session';
import { Doc, ProblemNote, ReasonDialog, tell, tellProblem, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { type Column, Table } from '../../shared/ui/Table';
import { Choice, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { WaysOut, Settle } from '../billing';
import { Attachments, StartFrom } from '../document';
import { sitesQuery } from '../masterdata';
import { MailButton, PrintButton } from '../paper';
import { TakeIn } from './Unexpected';
import { returnQuery, type Goods, type GoodsLine } from './api';

/** A return: what may come back, what came, what became of it; received, inspected and credited here. */
export function ReturnPage() {
  const { number = '' } = useParams();
  const query = useQuery(returnQuery(number));
  if (!query.data) return <Waiting query={query} />;
  // begun anew when goods have moved; a note leaves what is typed
  const moved = query.data.lines.map((line) => [line.awaited, line.inInspection]);
  return <ReturnSheet key={JSON.stringify(moved)} goods={query.data} />;
}

type InspectionResult = { restock: string; scrap: string; sendBack: string; site: string; remark: string };
const NONE: InspectionResult = { restock: '', scrap: '', sendBack: '', site: '', remark: '' };
const FIELD = { restock: 'Restock', scrap: 'Scrap', sendBack: 'Send back' };
const OUTCOME = { RESTOCK: 'restocked', SCRAP: 'scrapped', SEND_BACK: 'sent back' };

const awaited = (quantity: string) => (isZero(quantity) ? '' : plain(quantity));

function ReturnSheet({ goods }: { goods: Goods }) {
  const { may } = useSession();
  const { has, can, why } = offersOf(goods.actions);
  const receives = can('RECEIVE');
  const inspects = can('INSPECT');
  const sites = useQuery(sitesQuery).data ?? [];
  const [before] = useState<Record<number, string>>(() =>
    Object.fromEntries(goods.lines.map((line) => [line.no, awaited(line.awaited)])),
  );
  const [came, setCame] = useState(before);
  const [results, setResults] = useState<Record<number, InspectionResult>>({});
  useUnsaved(came !== before || Object.keys(results).length > 0);
  const [asking, setAsking] = useState<'withdraw' | 'note' | 'other' | null>(null);
  const path = { path: { number: goods.number } };
  const done = { onError: tellProblem };
  const receive = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/returns/{number}/receipts', {
          params: path,
          body: {
            version: goods.version,
            lines: Object.entries(came)
              .filter(([, quantity]) => !isZero(quantity))
              .map(([line, quantity]) => ({ line: Number(line), quantity })),
          },
          ...once(),
        }),
      ),
    onSuccess: () => tell('Received, into inspection.'),
    ...done,
  });
  const judged = Object.entries(results).filter(([, v]) =>
    [v.restock, v.scrap, v.sendBack].some((quantity) => !isZero(quantity)),
  );
  const inspect = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/returns/{number}/inspections', {
          params: path,
          body: {
            version: goods.version,
            lines: judged.map(([line, v]) => ({
              line: Number(line),
              restock: v.restock || undefined,
              scrap: v.scrap || undefined,
              sendBack: v.sendBack || undefined,
              site: v.site || undefined,
              remark: v.remark,
            })),
          },
          ...once(),
        }),
      ),
    onSuccess: () => tell('Inspected.'),
    ...done,
  });
  const credit = useMutation({
    mutationFn: (ahead: boolean) =>
      answer(client.POST('/api/credit-notes', { body: { ofReturn: goods.number, ahead }, ...once() })),
    onSuccess: (credits) => tell(`Credited with ${credits.numbers.join(', ')}.`),
    ...done,
  });
  const withdraw = useMutation({
    mutationFn: (reason: string) =>
      answer(
        client.POST('/api/returns/{number}/withdrawals', {
          params: path,
          body: { version: goods.version, reason },
          ...once(),
        }),
      ),
    onSuccess: () => {
      tell('Withdrawn: no more goods are accepted.');
      setAsking(null);
    },
  });
  const note = useMutation({
    mutationFn: (text: string) =>
      answer(client.POST('/api/returns/{number}/notes', { params: path, body: { text }, ...once() })),
    onSuccess: () => setAsking(null),
  });
  const canReceive = receives && Object.values(came).some((quantity) => !isZero(quantity)) && !receive.isPending;
  const canInspect = inspects && judged.length > 0 && !inspect.isPending;
  const creditable = has('CREDIT');
  const first = canInspect ? inspect.mutate : canReceive ? receive.mutate : undefined;
  useKeys({ 'ctrl+enter': first ? () => first() : undefined });
  const set = (line: GoodsLine, field: keyof InspectionResult, value: string) =>
    setResults({ ...results, [line.no]: { ...(results[line.no] ?? NONE), [field]: value } });
  const toInspect = (line: GoodsLine) => (isZero(line.inInspection) ? 0 : 1);
  const judgedAs = (field: 'restock' | 'scrap' | 'sendBack', head: string): Column<GoodsLine> => ({
    head,
    num: true,
    className: 'wide-74',
    across: toInspect,
    cell: (line) => (
      <FigureInput
        label={`${FIELD[field]}, line ${line.no}`}
        value={results[line.no]?.[field] ?? ''}
        onChange={(to) => set(line, field, to)}
      />
    ),
  });
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Return <span className="mono">{goods.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(goods.customer)}`}>{goods.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind="RETURN" number={goods.number} />
          </span>
        </div>
        <p className="situation">{sentence(goods, creditable)}</p>
        <p className="muted">
          {goods.reasonWords}, authorised on {date(goods.on)}
          {goods.remark && `: ${goods.remark}`}
          {goods.remindedOn &&
            `. Customer reminded on ${date(goods.remindedOn)}${goods.reminders > 1 ? `, for the ${goods.reminders}. time` : ''}.`}
        </p>
        <Table
          caption="Lines"
          of={goods.lines}
          keyOf={(line) => line.no}
          columns={[
            { head: 'Line', num: true, cell: (line) => line.no },
            { head: 'Item', cell: (line) => <ReturnedItem line={line} /> },
            {
              head: 'From',
              className: 'nowrap',
              cell: (line) => (
                <>
                  <Doc kind="DISPATCH" number={line.dispatch} />
                  {line.invoice && (
                    <>
                      , <Doc kind="INVOICE" number={line.invoice} />
                    </>
                  )}
                </>
              ),
            },
            { head: 'Authorised', num: true, cell: (line) => trim(line.authorised) },
            { head: 'Received', num: true, cell: (line) => orDash(line.received) },
            receives && {
              head: 'Receive now',
              num: true,
              className: 'wide-74',
              cell: (line) =>
                isZero(line.awaited) ? (
                  '–'
                ) : (
                  <FigureInput
                    label={`Receive now, line ${line.no}`}
                    value={came[line.no] ?? ''}
                    onChange={(to) => setCame({ ...came, [line.no]: to })}
                  />
                ),
            },
            { head: 'To inspect', num: true, cell: (line) => orDash(line.inInspection) },
            ...(inspects
              ? [
                  {
                    className: 'muted',
                    across: (line: GoodsLine) => (isZero(line.inInspection) ? 5 : 0),
                    cell: () => 'nothing to inspect',
                  },
                  judgedAs('restock', 'Restock'),
                  {
                    head: 'Store',
                    across: toInspect,
                    cell: (line: GoodsLine) => (
                      <Choice
                        className="bare"
                        aria-label={`Store, line ${line.no}`}
                        value={results[line.no]?.site ?? line.site}
                        onChange={(to) => set(line, 'site', to)}
                      >
                        {sites.map((site) => (
                          <option key={site.code} value={site.code}>
                            {site.code}
                          </option>
                        ))}
                      </Choice>
                    ),
                  },
                  judgedAs('scrap', 'Scrap'),
                  judgedAs('sendBack', 'Send back'),
                  {
                    head: 'Serial no. or damage',
                    across: toInspect,
                    cell: (line: GoodsLine) => (
                      <TextLine
                        className="cell-input"
                        aria-label={`Remark, line ${line.no}`}
                        maxLength={2000}
                        value={results[line.no]?.remark ?? ''}
                        onChange={(to) => set(line, 'remark', to)}
                      />
                    ),
                  },
                ]
              : [
                  { head: 'Restocked', num: true, cell: (line: GoodsLine) => orDash(line.restocked) },
                  { head: 'Scrapped', num: true, cell: (line: GoodsLine) => orDash(line.scrapped) },
                  { head: 'Sent back', num: true, cell: (line: GoodsLine) => orDash(line.sentBack) },
                ]),
          ]}
        />
        <ProblemNote problem={receive.error ?? inspect.error ?? credit.error} />
        <div className="two above-18">
          <section>
            <h2>Settlement</h2>
            {goods.credits.length === 0 && goods.replacements.length === 0 && (
              <p className="muted">
                {creditable ? 'Nothing yet: the goods were billed and are to be credited.' : 'Nothing yet.'}
              </p>
            )}
            {goods.credits.map((number) => (
              <Settle key={number} number={number} />
            ))}
            {goods.replacements.map((number) => (
              <div key={number}>
                Replacement at no charge: <Doc kind="ORDER" number={number} />
              </div>
            ))}
            <p>
              <StartFrom
                kind="RETURN"
                number={goods.number}
                customer={goods.customer}
                customerName={goods.customerName}
              />
            </p>
          </section>
          <section>
            <h2>History</h2>
            {goods.story.map((line, index) => (
              <div key={index} className="told">
                {date(line.on)} {line.sentence} <span className="muted">by {line.by}</span>
              </div>
            ))}
            {may('PROPOSE') && (
              <button className="plain small" onClick={() => setAsking('note')}>
                Add a note
              </button>
            )}
            <div className="above-14">
              <Attachments owner="returns" number={goods.number} />
            </div>
          </section>
        </div>
      </div>
      <div className="bar">
        {receives && (
          <button
            className={inspects ? 'button' : 'button first'}
            disabled={!canReceive}
            onClick={() => receive.mutate()}
          >
            Receive into inspection {!inspects && <kbd>Ctrl ↵</kbd>}
          </button>
        )}
        {inspects && (
          <button className="button first" disabled={!canInspect} onClick={() => inspect.mutate()}>
            Record inspection <kbd>Ctrl ↵</kbd>
          </button>
        )}
        {can('CREDIT') && (
          <button
            className={receives || inspects ? 'button' : 'button first'}
            disabled={credit.isPending}
            onClick={() => credit.mutate(false)}
          >
            Credit received goods
          </button>
        )}
        {can('CREDIT_AHEAD') && (
          <button className="button" disabled={credit.isPending} onClick={() => credit.mutate(true)}>
            Credit ahead
          </button>
        )}
        <PrintButton paper="RETURN_SLIP" numbers={[goods.number]}>
          Print the slip
        </PrintButton>
        <MailButton paper="RETURN_SLIP" number={goods.number} />
        <span className="gap" />
        {receives && (
          <button className="plain" onClick={() => setAsking('other')}>
            Other goods came…
          </button>
        )}
        {has('WITHDRAW') && (
          <button
            className="plain"
            disabled={!can('WITHDRAW')}
            title={why('WITHDRAW')}
            onClick={() => setAsking('withdraw')}
          >
            Withdraw…
          </button>
        )}
      </div>
      {asking === 'withdraw' && (
        <ReasonDialog
          title={`Withdraw return ${goods.number}`}
          action="Withdraw"
          busy={withdraw.isPending}
          problem={withdraw.error}
          onClose={() => setAsking(null)}
          onGiven={withdraw.mutate}
        >
          No more goods are accepted on this return.
        </ReasonDialog>
      )}
      {asking === 'note' && (
        <ReasonDialog
          title={`Note on return ${goods.number}`}
          action="Save"
          busy={note.isPending}
          problem={note.error}
          onClose={() => setAsking(null)}
          onGiven={note.mutate}
        >
          The note is kept with the return and in the history of its orders.
        </ReasonDialog>
      )}
      {asking === 'other' && (
        <TakeIn
          ofReturn={goods.number}
          customer={{ code: goods.customer, name: goods.customerName }}
          onClose={() => setAsking(null)}
        />
      )}
    </div>
  );
}

function sentence(goods: Goods, toCredit: boolean): string {
  const creditable = toCredit ? ' The billed goods are to be credited.' : '';
  if (goods.inspecting)
    return `Goods received and waiting for inspection${goods.expects ? '; more is expected' : ''}.${creditable}`;
  if (goods.expects)
    return `${goods.lines.some((line) => !isZero(line.received)) ? 'Part received; the rest is expected.' : 'Goods expected.'}${creditable}`;
  const arrived = goods.lines.some((line) => !isZero(line.received));
  if (!arrived) return 'Withdrawn before any goods came.';
  return `${goods.withdrawn ? 'Received goods inspected; the rest withdrawn.' : 'All goods received and inspected.'}${creditable}`;
}

function ReturnedItem({ line }: { line: GoodsLine }) {
  return (
    <>
      {line.description} <span className="mono muted small nowrap">{line.item}</span>
      {line.outcomes
        .filter((outcome) => outcome.remark)
        .map((outcome, index) => (
          <div key={index} className="small muted">
            {trim(outcome.quantity)} {OUTCOME[outcome.kind]}: {outcome.remark}
          </div>
        ))}
      {!isZero(line.creditedAhead) && (
        <div className="small error">{trim(line.creditedAhead)} credited, not received</div>
      )}
    </>
  );
}
