import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { answer, client, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';
import { moment } from '../../shared/format';
import { Doc, Empty, Mark, More, Waiting } from '../../shared/ui';

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
  MATCHING: { title: 'Bank matching', one: 'entry', many: 'entries' },
};

export const batchQuery = (id: string) =>
  queryOptions({
    queryKey: ['batch', id],
    queryFn: () => answer(client.GET('/api/batches/{id}', { params: { path: { id: Number(id) } } })),
    refetchInterval: (query) => (query.state.data && query.state.data.waiting > 0 ? 1000 : false),
  });

/** How far a batch is, as a sentence. */
export function progress(batch: Pick<Schemas['BatchRow'], 'kind' | 'waiting' | 'done' | 'refused'>): string {
  const { one, many } = BATCHES[batch.kind];
  const total = batch.waiting + batch.done + batch.refused;
  const of = `Of ${total} ${total === 1 ? one : many}, ${batch.done} went through`;
  const not = batch.refused > 0 ? `, ${batch.refused} did not; the reasons are below` : '';
  return batch.waiting > 0
    ? `${of}${not}; ${batch.waiting} waiting. You can leave this page; the work continues.`
    : `${of}${not}.`;
}

/** The log of a batch: per document what happened. */
export function BatchPage() {
  const { id = '' } = useParams();
  const query = useQuery(batchQuery(id));
  const batch = query.data;
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
        <p className="situation">{progress(batch)}</p>
        {batch.reason && <p className="muted">Reason: {batch.reason}</p>}
        <BatchEntries batch={batch} />
      </div>
    </div>
  );
}

const MARKS = { DONE: 'settled', REFUSED: 'stop', WAITING: 'awaiting' };
const WORDS = { DONE: 'done', REFUSED: 'refused', WAITING: 'waiting' };

export function BatchEntries({ batch }: { batch: Schemas['BatchView'] }) {
  return (
    <table className="rows">
      <thead>
        <tr>
          <th className="num" style={{ width: 40 }} />
          <th>Document</th>
          <th style={{ width: 110 }}>Outcome</th>
          <th>Result</th>
          <th>Reason</th>
        </tr>
      </thead>
      <tbody>
        {batch.entries.map((entry) => (
          <tr key={entry.no}>
            <td className="num muted">{entry.no}</td>
            <td style={{ overflowWrap: 'anywhere' }}>
              {entry.subject.includes(' ') ? (
                entry.subject
              ) : (
                <Doc kind={batch.kind === 'REMINDERS' ? 'CUSTOMER' : entry.subjectKind} number={entry.subject} />
              )}
            </td>
            <td className="nowrap">
              <Mark of={MARKS[entry.state]} />
              {WORDS[entry.state]}
            </td>
            <td>{entry.result && entry.resultKind && <Doc kind={entry.resultKind} number={entry.result} />}</td>
            <td style={{ overflowWrap: 'anywhere' }}>{entry.sentence}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const batchesQuery = (kind: Kind | undefined) =>
  infiniteQueryOptions({
    queryKey: ['batches', kind],
    queryFn: ({ pageParam }) => answer(client.GET('/api/batches', { params: { query: { kind, after: pageParam } } })),
    ...pages,
  });

/** All batches, newest first. */
export function BatchListPage() {
  const [search] = useSearchParams();
  const kind = (search.get('kind') ?? undefined) as Kind | undefined;
  const query = useInfiniteQuery(batchesQuery(kind));
  if (!query.data) return <Waiting query={query} />;
  const rows = query.data.pages.flatMap((page) => page.rows);
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Bulk logs</h1>
        </div>
        {rows.length === 0 && <Empty>No bulk work yet. Select several orders in Review, Goods or Billing.</Empty>}
        {rows.length > 0 && (
          <table className="rows">
            <thead>
              <tr>
                <th>When</th>
                <th>What</th>
                <th>By</th>
                <th className="num">Done</th>
                <th className="num">Refused</th>
                <th className="num">Waiting</th>
                <th>Reason</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.id}>
                  <td className="nowrap">
                    <Link to={`/batches/${row.id}`}>{moment(row.at)}</Link>
                  </td>
                  <td>{BATCHES[row.kind].title}</td>
                  <td>{row.by}</td>
                  <td className="num">{row.done}</td>
                  <td className="num">{row.refused || '–'}</td>
                  <td className="num">{row.waiting || '–'}</td>
                  <td style={{ overflowWrap: 'anywhere' }}>{row.reason}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <More query={query} />
      </div>
    </div>
  );
}
