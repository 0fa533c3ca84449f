import { infiniteQueryOptions, useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { moment } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { Doc, Mark, More, tellProblem, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';

type Kind = Schemas['BatchRow']['kind'];

/** What was done many times over, in words: as a title, and of one that went through. */
export const BATCHES: Record<Kind, { title: string; one: string; many: string }> = {
  CLEARING: { title: 'Bulk clearing', one: 'order', many: 'orders' },
  STAGING: { title: 'Bulk staging', one: 'order', many: 'orders' },
  DEPARTURE: { title: 'Bulk departure', one: 'dispatch', many: 'dispatches' },
  BILLING: { title: 'Bulk billing', one: 'invoice', many: 'invoices' },
  REMINDERS: { title: 'Payment reminders', one: 'reminder', many: 'reminders' },
  RETURN_REMINDERS: { title: 'Return reminders', one: 'return', many: 'returns' },
  CANCELLING: { title: 'Bulk cancellation', one: 'order', many: 'orders' },
  UNWINDING: { title: 'Bulk unwinding', one: 'document', many: 'documents' },
  WRITING_OFF: { title: 'Bulk write-off', one: 'invoice', many: 'invoices' },
  MATCHING: { title: 'Bank matching', one: 'entry', many: 'entries' },
};

/** Whether something of it waits that will be done. */
const runs = (batch: Schemas['BatchView'] | undefined) =>
  batch !== undefined && batch.waiting > 0 && batch.stoppedBy === null;

/** A batch with a page of its entries after another, or of those that were refused; read again while it runs. */
export const batchQuery = (id: number, state?: 'REFUSED') =>
  infiniteQueryOptions({
    queryKey: keyOf('batch', id, state),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/batches/{id}', { params: { path: { id }, query: { state, after: pageParam } } })),
    refetchInterval: (query) => (runs(query.state.data?.pages[0]) ? 1000 : false),
    ...pages,
  });

/** How far a batch is, as a sentence. */
function progress(batch: Schemas['BatchView']): string {
  const { one, many } = BATCHES[batch.kind];
  const total = batch.waiting + batch.done + batch.refused + batch.leftOut;
  const of = `Of ${total} ${total === 1 ? one : many}, ${batch.done} went through`;
  const not = batch.refused > 0 ? `, ${batch.refused} did not; the reasons are below` : '';
  const out = batch.leftOut > 0 ? `, ${batch.leftOut} left out` : '';
  if (batch.waiting === 0) return `${of}${not}${out}.`;
  return batch.stoppedBy
    ? `${of}${not}${out}. Stopped by ${batch.stoppedBy}; ${batch.waiting} waiting.`
    : `${of}${not}${out}; ${batch.waiting} waiting. You can leave this page; the work continues.`;
}

/** The log of a batch: per document what happened. */
export function BatchPage() {
  const { id = '' } = useParams();
  const query = useInfiniteQuery(batchQuery(Number(id)));
  const batch = query.data?.pages[0];
  if (!batch) return <Waiting query={query} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{BATCHES[batch.kind].title}</h1>
          <span className="muted">
            {moment(batch.at)}, {batch.by} · <Link to="/batches">All logs</Link>
          </span>
        </div>
        {batch.reason && <p className="muted">Reason: {batch.reason}</p>}
        <BatchEntries id={batch.id} />
      </div>
    </div>
  );
}

const MARKS = { DONE: 'settled', REFUSED: 'stop', WAITING: 'awaiting', LEFT_OUT: 'waived' };
const WORDS = { DONE: 'done', REFUSED: 'refused', WAITING: 'waiting', LEFT_OUT: 'left out' };

/** Stops it, has it go on, or leaves one of its entries out. */
function useChange(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (what: 'stops' | 'resumptions' | number) =>
      answer(
        typeof what === 'number'
          ? client.POST('/api/batches/{id}/entries/{no}/exclusions', { params: { path: { id, no: what } }, ...once() })
          : what === 'stops'
            ? client.POST('/api/batches/{id}/stops', { params: { path: { id } }, ...once() })
            : client.POST('/api/batches/{id}/resumptions', { params: { path: { id } }, ...once() }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf('batch', id) }),
    onError: tellProblem,
  });
}

/** How far a batch is, and its entries. */
export function BatchEntries({ id }: { id: number }) {
  const [refusedOnly, setRefusedOnly] = useState(false);
  const change = useChange(id);
  const query = useInfiniteQuery(batchQuery(id, refusedOnly ? 'REFUSED' : undefined));
  const batch = query.data?.pages[0];
  if (!batch) return <Waiting query={query} />;
  const entries = query.data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <>
      <p className="situation above-0" role="status">
        {progress(batch)}
      </p>
      {batch.waiting > 0 && (
        <p className="row gap-16 aligned-baseline">
          <button
            className="button"
            disabled={change.isPending}
            onClick={() => change.mutate(batch.stoppedBy ? 'resumptions' : 'stops')}
          >
            {batch.stoppedBy ? 'Go on' : 'Stop'}
          </button>
          <span className="muted small">
            {batch.stoppedBy
              ? 'Nothing is done until it goes on. Single rows can be left out below.'
              : 'What is being done is done; the rest waits.'}
          </span>
        </p>
      )}
      {batch.refused > 0 && batch.done > 0 && (
        <label className="check small">
          <input type="checkbox" checked={refusedOnly} onChange={(event) => setRefusedOnly(event.target.checked)} />{' '}
          Only what was refused
        </label>
      )}
      <EntryTable kind={batch.kind} entries={entries} onLeaveOut={change.isPending ? undefined : change.mutate} />
      <More query={query} />
    </>
  );
}

function EntryTable({
  kind,
  entries,
  onLeaveOut,
}: {
  kind: Kind;
  entries: Schemas['Entry'][];
  onLeaveOut: ((no: number) => void) | undefined;
}) {
  return (
    <Table
      caption="What became of each"
      of={entries}
      keyOf={(entry) => entry.no}
      columns={[
        { num: true, width: 'wide-40', className: 'muted', cell: (entry) => entry.no },
        {
          head: 'Document',
          className: 'breaks',
          cell: (entry) =>
            entry.subject.includes(' ') ? (
              entry.subject
            ) : (
              <Doc kind={kind === 'REMINDERS' ? 'CUSTOMER' : entry.subjectKind} number={entry.subject} />
            ),
        },
        {
          head: 'Outcome',
          width: 'wide-110',
          className: 'nowrap',
          cell: (entry) => (
            <>
              <Mark of={MARKS[entry.state]} />
              {WORDS[entry.state]}
            </>
          ),
        },
        {
          head: 'Result',
          cell: (entry) => entry.result && entry.resultKind && <Doc kind={entry.resultKind} number={entry.result} />,
        },
        {
          head: 'Reason',
          className: 'breaks',
          cell: (entry) =>
            entry.state === 'WAITING' ? (
              <button
                className="plain"
                aria-label={`Leave ${entry.subject} out`}
                disabled={!onLeaveOut}
                onClick={() => onLeaveOut?.(entry.no)}
              >
                leave out
              </button>
            ) : (
              entry.sentence
            ),
        },
      ]}
    />
  );
}

/** All batches, newest first. */
export function BatchListPage() {
  return (
    <DataList
      name="batches"
      place={(row) => `/batches/${row.key}`}
      cell={(column, row) => {
        const text = textIn(row, column);
        if (column === 'kind') return <Link to={`/batches/${row.key}`}>{BATCHES[text as Kind].title}</Link>;
        return ['refused', 'waiting'].includes(column) && text === '0' ? <>–</> : undefined;
      }}
    />
  );
}

/** The way to all batches of a kind. */
export function LogsLink({ of }: { of: Kind }) {
  return (
    <Link className="small" to={`/batches?filter=kind:any:${of}`}>
      Logs
    </Link>
  );
}
