import { keepPreviousData, queryOptions, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { isZero, nearness, trim, Words } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import type { Row } from '../../shared/list/api';
import { offersOf } from '../../shared/offered';
import { useSession } from '../../shared/session';
import { Mark, OfTab, ProblemNote, Tabs, tell, tellProblem } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { BatchLog, LogsLink } from '../batch';
import { PrintButton } from '../paper';
import { Stock, StockList } from './Stock';

/** What can be done to staged dispatches, and what their departure brings under its minimum. */
const offeredQuery = (keys: string[]) =>
  queryOptions({
    queryKey: keyOf('goods', 'offered', keys.join()),
    queryFn: () => answer(client.GET('/api/goods/offered', { params: { query: { keys: keys.map(Number) } } })),
    enabled: keys.length > 0,
    placeholderData: keepPreviousData,
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
  if (tab === 'to-stage') return <ToStage />;
  if (tab === 'staged') return <Staged />;
  if (tab === 'departed') return <DataList name="dispatches" first="departed" isAbout top={TABS} />;
  if (tab === 'stock' && !search.has('item')) return <StockList tabs={TABS} />;
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">{TABS}</div>
      <OfTab tab={tab} of={{ stock: <Stock /> }} />
    </div>
  );
}

/** What a command is about: a document as it was seen. */
const seen = (row: Row) => ({ number: row.opens, version: row.version ?? 0 });

type Shortage = 'SHIP_RESERVED' | 'ONLY_COMPLETE' | 'DROP_REST';

function ToStage() {
  const { today, may } = useSession();
  const [whenShort, setWhenShort] = useState<Shortage>('SHIP_RESERVED');
  const [own, setOwn] = useState<Record<string, Shortage>>({});
  const stage = useMutation({
    mutationFn: (rows: Row[]) =>
      answer(
        client.POST('/api/batches/stagings', {
          body: {
            orders: rows.map(seen).map(({ number, version }) => ({
              order: number,
              version,
              whenShort: own[number] ?? whenShort,
            })),
          },
          ...once(),
        }),
      ),
    onError: tellProblem,
  });
  const cell = (column: string, row: Row) => {
    if (column === 'requestedOn')
      return <span className="nowrap">{nearness(textIn(row, column), today).replace('requested ', '')}</span>;
    if (column !== 'waiting') return undefined;
    if (isZero(textIn(row, column))) return <>–</>;
    return (
      <>
        {trim(textIn(row, column))}{' '}
        <Choice
          className="bare small"
          aria-label={`Shortage choice for ${row.opens}`}
          value={own[row.opens] ?? whenShort}
          onChange={(to) => setOwn({ ...own, [row.opens]: to })}
        >
          <Shortages />
        </Choice>
      </>
    );
  };
  return (
    <>
      <DataList
        name="to-stage"
        top={TABS}
        place={(row) => `/orders/${row.opens}`}
        cell={cell}
        selected={(chosen, { none }) => (
          <div className="bar">
            <button
              className="button first"
              disabled={!may('MOVE_GOODS') || stage.isPending || chosen.length === 0}
              onClick={() => stage.mutate(chosen, { onSuccess: none })}
            >
              Stage {chosen.length || ''} selected
            </button>
            <label className="small">
              if short:{' '}
              <Choice className="bare" value={whenShort} onChange={setWhenShort}>
                <Shortages />
              </Choice>
            </label>
            <span className="gap" />
            <LogsLink of="STAGING" />
          </div>
        )}
      />
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

const stagedCell = (column: string, row: Row) => {
  const text = textIn(row, column);
  if (column === 'orderState') return text === 'CLEARED' ? undefined : <span className="error">{Words(text)}</span>;
  if (column === 'carrierReference') return text || '–';
  return column === 'carrierFailure' ? <span className="error small">{text}</span> : undefined;
};

function Staged() {
  const [booked, setBooked] = useState<Row[]>();
  return (
    <>
      <DataList
        name="dispatches"
        first="staged"
        isAbout
        top={TABS}
        cell={stagedCell}
        selected={(chosen, { none }) => <StagedBar chosen={chosen} onDone={none} onBook={setBooked} />}
      />
      {booked && <Carrier rows={booked.map(seen)} onClose={() => setBooked(undefined)} />}
    </>
  );
}

/** What can be done with the dispatches that are selected. */
function StagedBar({ chosen, onDone, onBook }: { chosen: Row[]; onDone: () => void; onBook: (rows: Row[]) => void }) {
  const depart = useMutation({
    mutationFn: (rows: Row[]) =>
      answer(
        client.POST('/api/batches/departures', {
          body: { dispatches: rows.map(seen).map(({ number, version }) => ({ dispatch: number, version })) },
          ...once(),
        }),
      ),
    onSuccess: onDone,
    onError: tellProblem,
  });
  const voiding = useMutation({
    mutationFn: async (rows: Row[]) => {
      for (const { number, version } of rows.map(seen)) {
        await answer(
          client.POST('/api/dispatches/{number}/voiding', {
            params: { path: { number } },
            body: { version },
            ...once(),
          }),
        );
      }
      return rows.length;
    },
    onSuccess: (count) => {
      onDone();
      tell(
        count === 1
          ? 'Voided; the goods are reserved for the order again.'
          : `${count} voided; the goods are reserved for the orders again.`,
      );
    },
    onError: tellProblem,
  });
  const query = useQuery(offeredQuery(chosen.map((row) => row.key)));
  const notes = chosen.length > 0 ? (query.data ?? []) : [];
  const offered = notes.map((note) => offersOf(note.actions));
  const can = (action: Schemas['DispatchActionView']['action']) =>
    offered.some((one) => one.can(action)) && !depart.isPending && !voiding.isPending;
  const stays = offered.flatMap((one) => one.why('DEPART') ?? []);
  const warned = [...new Set([...stays, ...notes.flatMap((note) => note.fallsUnderMinimum)])];
  return (
    <>
      <div className="bar">
        <button className="button first" disabled={!can('DEPART')} onClick={() => depart.mutate(chosen)}>
          Send off {chosen.length || ''} selected
        </button>
        <button className="button" disabled={!can('VOID')} onClick={() => voiding.mutate(chosen)}>
          Void
        </button>
        <button className="button" disabled={!can('BOOK_CARRIER')} onClick={() => onBook(chosen)}>
          Book carrier
        </button>
        <PrintButton paper="PACKING_SLIP" numbers={chosen.map((row) => row.opens)}>
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
        <LogsLink of="DEPARTURE" />
      </div>
      <BatchLog batch={depart.data} onClose={depart.reset} />
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
