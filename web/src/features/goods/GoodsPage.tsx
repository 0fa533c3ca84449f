import { infiniteQueryOptions, useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { isZero, nearness, shortDate, trim } from '../../shared/format';
import { DataList } from '../../shared/list/DataList';
import { useGo } from '../../shared/navigation';
import { offersOf } from '../../shared/offered';
import { SelectAll, SelectOne, useSelection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { Doc, Empty, Mark, More, OfTab, ProblemNote, Tabs, tell, tellProblem, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { BatchLog } from '../batch';
import { PrintButton } from '../paper';
import { Stock, StockList } from './Stock';

const toStageQuery = infiniteQueryOptions({
  queryKey: keyOf('goods', 'to-stage'),
  queryFn: ({ pageParam }) => answer(client.GET('/api/goods/to-stage', { params: { query: { after: pageParam } } })),
  ...pages,
});

const stagedQuery = infiniteQueryOptions({
  queryKey: keyOf('goods', 'staged'),
  queryFn: ({ pageParam }) =>
    answer(client.GET('/api/goods/dispatches', { params: { query: { departed: false, after: pageParam } } })),
  ...pages,
});

const TABS = (
  <Tabs
    of={[
      { to: '/goods', label: 'To stage' },
      { to: '/goods/staged', label: 'Staged' },
      { to: '/goods/departed', label: 'Departed' },
      { to: '/goods/stock', label: 'Stock' },
    ]}
  />
);

/** Goods on their way out: to stage, staged, departed; and what lies in the stores. */
export function GoodsPage() {
  const { tab = 'to-stage' } = useParams();
  const [search] = useSearchParams();
  if (tab === 'departed') return <DataList name="dispatches" first="departed" isAbout top={TABS} />;
  if (tab === 'stock' && !search.has('item')) return <StockList tabs={TABS} />;
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">{TABS}</div>
      <OfTab tab={tab} of={{ 'to-stage': <ToStage />, staged: <Staged />, stock: <Stock /> }} />
    </div>
  );
}

function ToStage() {
  const { today, may, reads } = useSession();
  const navigate = useGo();
  const list = useInfiniteQuery(toStageQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(
    rows,
    (row) => row.order,
    (row) => navigate(`/orders/${row.order}`),
  );
  const [whenShort, setWhenShort] = useState<'SHIP_RESERVED' | 'ONLY_COMPLETE' | 'DROP_REST'>('SHIP_RESERVED');
  const [own, setOwn] = useState<Record<string, typeof whenShort>>({});
  const stage = useMutation({
    mutationFn: (orders: typeof rows) =>
      answer(
        client.POST('/api/batches/stagings', {
          body: {
            orders: orders.map((row) => ({
              order: row.order,
              version: row.version,
              whenShort: own[row.order] ?? whenShort,
            })),
          },
          ...once(),
        }),
      ),
    onSuccess: selection.none,
    onError: tellProblem,
  });
  if (!list.data) return <Waiting query={list} />;
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>
            {rows.length === 0 ? 'Nothing to stage' : `${rows.length}${list.hasNextPage ? '+' : ''} orders to stage`}
          </h1>
        </div>
        <table className="rows">
          <caption className="unseen">Orders to stage</caption>
          <thead>
            <tr>
              <SelectAll selection={selection} />
              <th>Order</th>
              <th>Customer</th>
              {reads('SELLING') && <th>Customer PO</th>}
              <th>Requested</th>
              <th className="num">Lines</th>
              <th className="num">Reserved</th>
              <th className="num">Waits</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.order} className={index === selection.at ? 'at' : ''}>
                <SelectOne selection={selection} row={row} name={row.order} />
                <td>
                  <Doc kind="ORDER" number={row.order} />
                </td>
                <td>{row.customerName}</td>
                {reads('SELLING') && <td className="mono">{row.po}</td>}
                <td className="nowrap">{nearness(row.requestedOn, today).replace('requested ', '')}</td>
                <td className="num">{row.lines}</td>
                <td className="num">{trim(row.reserved)}</td>
                <td className="num">
                  {isZero(row.waiting) ? (
                    '–'
                  ) : (
                    <>
                      {trim(row.waiting)}{' '}
                      <Choice
                        className="bare small"
                        aria-label={`Shortage choice for ${row.order}`}
                        value={own[row.order] ?? whenShort}
                        onChange={(to) => setOwn({ ...own, [row.order]: to })}
                      >
                        <Shortages />
                      </Choice>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>Orders show here when they are cleared and stock is reserved.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!may('MOVE_GOODS') || stage.isPending || selection.chosen.length === 0}
          onClick={() => stage.mutate(selection.chosen)}
        >
          Stage {selection.chosen.length || ''} selected
        </button>
        <label className="small">
          if short:{' '}
          <Choice className="bare" value={whenShort} onChange={setWhenShort}>
            <Shortages />
          </Choice>
        </label>
        <span className="gap" />
        <Link className="small" to="/batches?kind=STAGING">
          Logs
        </Link>
      </div>
      <BatchLog batch={stage.data} onClose={stage.reset} />
    </>
  );
}

function Shortages() {
  return (
    <>
      <option value="SHIP_RESERVED">ship what is reserved</option>
      <option value="ONLY_COMPLETE">wait for all</option>
      <option value="DROP_REST">cancel the rest</option>
    </>
  );
}

function Staged() {
  const { may } = useSession();
  const navigate = useGo();
  const list = useInfiniteQuery(stagedQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(
    rows,
    (row) => row.number,
    (row) => navigate(`/orders/${row.order}`),
  );
  const depart = useMutation({
    mutationFn: (notes: typeof rows) =>
      answer(
        client.POST('/api/batches/departures', {
          body: { dispatches: notes.map((row) => ({ dispatch: row.number, version: row.version })) },
          ...once(),
        }),
      ),
    onSuccess: selection.none,
    onError: tellProblem,
  });
  const voiding = useMutation({
    mutationFn: async (notes: typeof rows) => {
      for (const row of notes) {
        await answer(
          client.POST('/api/dispatches/{number}/voiding', {
            params: { path: { number: row.number } },
            body: { version: row.version },
            ...once(),
          }),
        );
      }
      return notes.length;
    },
    onSuccess: (count) =>
      tell(
        count === 1
          ? 'Voided; the goods are reserved for the order again.'
          : `${count} voided; the goods are reserved for the orders again.`,
      ),
    onError: tellProblem,
  });
  const [booked, setBooked] = useState(false);
  if (!list.data) return <Waiting query={list} />;
  const offered = selection.chosen.map((row) => offersOf(row.actions));
  const can = (action: Schemas['DispatchActionView']['action']) =>
    offered.some((one) => one.can(action)) && !depart.isPending && !voiding.isPending;
  const stays = offered.flatMap((one) => one.why('DEPART') ?? []);
  const warned = [...new Set([...stays, ...selection.chosen.flatMap((row) => row.fallsUnderMinimum)])];
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>
            {rows.length === 0 ? 'Nothing staged' : `${rows.length}${list.hasNextPage ? '+' : ''} dispatches staged`}
          </h1>
        </div>
        <table className="rows">
          <caption className="unseen">Staged dispatches</caption>
          <thead>
            <tr>
              <SelectAll selection={selection} />
              <th>Dispatch</th>
              <th>Order</th>
              <th>Customer</th>
              <th>Store</th>
              <th>Staged</th>
              <th>Requested</th>
              <th>Carrier</th>
              <th className="num">Lines</th>
              <th className="num">Quantity</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.number} className={index === selection.at ? 'at' : ''}>
                <SelectOne selection={selection} row={row} name={row.number} />
                <td>
                  <Doc kind="DISPATCH" number={row.number} />
                </td>
                <td>
                  <Doc kind="ORDER" number={row.order} />
                  {may('MOVE_GOODS') && (
                    <div className="small error up-to-220">{offersOf(row.actions).why('DEPART')}</div>
                  )}
                </td>
                <td>{row.customerName}</td>
                <td>{row.site}</td>
                <td className="nowrap">{shortDate(row.on)}</td>
                <td className="nowrap">{shortDate(row.requestedOn)}</td>
                <td className={row.carrierFailure ? 'error small' : 'small'}>
                  {row.carrierFailure ??
                    (row.carrierReference ? <span className="mono">{row.carrierReference}</span> : '–')}
                </td>
                <td className="num">{row.lines}</td>
                <td className="num">{trim(row.quantity)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>Staged dispatches show here.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!can('DEPART')} onClick={() => depart.mutate(selection.chosen)}>
          Send off {selection.chosen.length || ''} selected
        </button>
        <button className="button" disabled={!can('VOID')} onClick={() => voiding.mutate(selection.chosen)}>
          Void
        </button>
        <button className="button" disabled={!can('BOOK_CARRIER')} onClick={() => setBooked(true)}>
          Book carrier
        </button>
        <PrintButton paper="PACKING_SLIP" numbers={selection.chosen.map((row) => row.number)}>
          Packing slips
        </PrintButton>
        <span className={warned.length > 0 ? 'small' : 'muted small'}>
          {warned.length > 0 ? (
            <>
              <Mark of="caution" />
              {warned.join('; ')}
            </>
          ) : (
            'Goods that left can only come back as a return.'
          )}
        </span>
        <span className="gap" />
        <Link className="small" to="/batches?kind=DEPARTURE">
          Logs
        </Link>
      </div>
      <BatchLog batch={depart.data} onClose={depart.reset} />
      {booked && <Carrier rows={selection.chosen} onClose={() => setBooked(false)} />}
    </>
  );
}

/** Asks a carrier's desk for a reference, note by note; a desk that is silent leaves that to be seen. */
function Carrier({ rows, onClose }: { rows: { number: string; version: number }[]; onClose: () => void }) {
  const [carrier, setCarrier] = useState('');
  const book = useMutation({
    mutationFn: async () => {
      const answers = [];
      for (const row of rows) {
        answers.push(
          await answer(
            client.POST('/api/dispatches/{number}/carrier', {
              params: { path: { number: row.number } },
              body: { version: row.version, carrier },
              ...once(),
            }),
          ),
        );
      }
      return answers;
    },
    onSuccess: (notes) => {
      const silent = notes.filter((note) => note.carrierFailure);
      const failure = silent[0]?.carrierFailure;
      tell(failure ? `${failure} Book ${silent.length === 1 ? 'it' : 'them'} again later.` : `Booked with ${carrier}.`);
      onClose();
    },
  });
  return (
    <Dialog
      onClose={onClose}
      title={`Book ${rows.length === 1 ? rows[0]?.number : `${rows.length} dispatches`} with a carrier`}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (carrier.trim() && !book.isPending) book.mutate();
        }}
      >
        <Field of="carrier" label="Carrier" className="around-12px-0">
          <TextLine id="carrier" data-autofocus maxLength={60} value={carrier} onChange={setCarrier} />
        </Field>
        <ProblemNote problem={book.error} />
        <button type="submit" className="button first" disabled={!carrier.trim() || book.isPending}>
          {book.isPending ? 'Booking…' : 'Book'} <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}
