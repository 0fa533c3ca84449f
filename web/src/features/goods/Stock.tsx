import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { answer, client, once, type Problem, type Schemas, upload } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, plain, trim } from '../../shared/format';
import { DataList } from '../../shared/list/DataList';
import { useGo } from '../../shared/navigation';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, Empty, ProblemNote, ReasonInput, tell, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Choice, Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { ItemLook, sitesQuery } from '../masterdata';

/** What lies in all stores; a row opens its item on its shelves. */
export function StockList({ tabs }: { tabs: ReactNode }) {
  const [taking, setTaking] = useState(false);
  const { may } = useSession();
  const go = useGo();
  return (
    <DataList
      name="stock"
      top={tabs}
      place={(row) => `/goods/stock?item=${encodeURIComponent(row.opens)}`}
      bar={
        <>
          <div className="wide-320">
            <ItemLook
              label="Item"
              placeholder="item, by name or code"
              shown=""
              beside={(hit) => `${trim(hit.free)} free`}
              onTake={(hit) => go(`/goods/stock?item=${encodeURIComponent(hit.code)}`)}
            />
          </div>
          {may('MOVE_GOODS') && (
            <button className="button" onClick={() => setTaking(true)}>
              Import stock receipts
            </button>
          )}
          {taking && (
            <Dialog title="Import stock receipts" size="lg" onClose={() => setTaking(false)}>
              <StockFile />
            </Dialog>
          )}
        </>
      }
    />
  );
}

/** One item on its shelves: what lies there, what comes in, what a count found, and who holds or waits for it. */
export function Stock() {
  const [search, setSearch] = useSearchParams();
  const { may } = useSession();
  const item = search.get('item') ?? '';
  const shelves = useQuery({
    queryKey: keyOf('stock', item),
    queryFn: () => answer(client.GET('/api/stock/{item}', { params: { path: { item } } })),
  });
  const queue = useQuery({
    queryKey: keyOf('stock', item, 'queue'),
    queryFn: () => answer(client.GET('/api/stock/{item}/queue', { params: { path: { item } } })),
  });
  return (
    <div className="page-scroll inset-top-0">
      <div className="page-head">
        <h1>Stock of {item}</h1>
        <div className="wide-320">
          <ItemLook
            label="Item"
            placeholder="item, by name or code"
            shown={item}
            beside={(hit) => `${trim(hit.free)} free`}
            onTake={(hit) => setSearch({ item: hit.code })}
          />
        </div>
      </div>
      {!shelves.data && <Waiting query={shelves} />}
      {shelves.data && (
        <>
          <Table
            caption="Stock by store"
            of={shelves.data}
            keyOf={(shelf) => shelf.site}
            columns={[
              { head: 'Store', cell: (shelf) => shelf.site },
              { head: 'On hand', num: true, cell: (shelf) => trim(shelf.onHand) },
              { head: 'Reserved', num: true, cell: (shelf) => orDash(trim(shelf.reserved)) },
              { head: 'Free', num: true, className: 'strong', cell: (shelf) => trim(shelf.free) },
              { head: 'In inspection', num: true, cell: (shelf) => orDash(trim(shelf.inspection)) },
              { head: <>Value {currency()}</>, num: true, cell: (shelf) => figure(shelf.value) },
            ]}
          />
          {shelves.data.length === 0 && <Empty>No store has ever held it.</Empty>}
          {may('MOVE_GOODS') && <Moves key={item} item={item} shelves={shelves.data} />}
          <h2 className="above-22">Reservations and waiting orders, in sequence</h2>
          {queue.data && <Queue rows={queue.data} />}
          <p>
            <Link to={`/items/${encodeURIComponent(item)}`}>Item page</Link>
          </p>
        </>
      )}
    </div>
  );
}

/** Receive stock, and a count that puts the books right. */
function Moves({ item, shelves }: { item: string; shelves: Schemas['ShelfView'][] }) {
  const sites = useQuery(sitesQuery).data ?? [];
  const [site, setSite] = useState('');
  const [quantity, setQuantity] = useState('');
  const [cost, setCost] = useState('');
  const [counted, setCounted] = useState('');
  const [worth, setWorth] = useState('');
  const [reason, setReason] = useState('');
  useUnsaved([quantity, cost, counted, worth, reason].some((one) => one !== ''));
  const at = site === '' ? (sites[0]?.code ?? '') : site;
  const shelf = shelves.find((one) => one.site === at);
  const receive = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/stock-receipts', { body: { item, site: at, quantity, unitCost: cost }, ...once() })),
    onSuccess: (receipt) => {
      tell(`Received as ${receipt.number}; offered to waiting orders.`);
      setQuantity('');
      setCost('');
    },
  });
  const count = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/stock-counts', {
          body: { item, site: at, counted, unitCost: worth || undefined, reason },
          ...once(),
        }),
      ),
    onSuccess: (correction) => {
      tell(`Stock count posted: ${correction.number}.`);
      setCounted('');
      setWorth('');
      setReason('');
    },
  });
  return (
    <div className="grid columns-150px-1fr-1-4fr gap-28 above-18 aligned-start">
      <Field of="stock-site" label="Store">
        <Choice id="stock-site" value={at} onChange={setSite}>
          {sites.map((one) => (
            <option key={one.code} value={one.code}>
              {one.name}
            </option>
          ))}
        </Choice>
      </Field>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (quantity && cost && !receive.isPending) receive.mutate();
        }}
      >
        <h2 className="above-0">Receive stock</h2>
        <div className="row gap-14 aligned-end">
          <Field of="in-quantity" label="Quantity">
            <FigureInput id="in-quantity" label="Quantity received" value={quantity} onChange={setQuantity} />
          </Field>
          <Field of="in-cost" label={`Unit cost ${currency()}`}>
            <FigureInput id="in-cost" label="Unit cost" value={cost} onChange={setCost} />
          </Field>
          <button className="button" disabled={!quantity || !cost || receive.isPending}>
            Receive
          </button>
        </div>
        <ProblemNote problem={receive.error} />
      </form>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (counted && reason.trim() && !count.isPending) count.mutate();
        }}
      >
        <h2 className="above-0">Counted</h2>
        <div className="row gap-14 aligned-end">
          <Field of="counted" label="Counted" className="wide-80">
            <FigureInput id="counted" label="Counted" value={counted} onChange={setCounted} />
          </Field>
          {(!shelf || isZero(shelf.onHand)) && (
            <Field of="worth" label={`Unit cost ${currency()}`} className="wide-90">
              <FigureInput id="worth" label="Unit cost of surplus" value={worth} onChange={setWorth} />
            </Field>
          )}
          <Field of="count-reason" label="Reason" className="grows-1">
            <ReasonInput id="count-reason" value={reason} onChange={setReason} />
          </Field>
          <button className="button" disabled={!counted || !reason.trim() || count.isPending}>
            Correct
          </button>
        </div>
        {shelf && !isZero(shelf.onHand) && (
          <div className="muted small">
            Book quantity {trim(shelf.onHand)}, worth {currency()} {figure(shelf.value)}.
          </div>
        )}
        <ProblemNote problem={count.error} />
      </form>
    </div>
  );
}

/** The queue at the shelves; a decider hands reserved goods over from one order to another. */
function Queue({ rows }: { rows: Schemas['ClaimView'][] }) {
  const { may } = useSession();
  const [from, setFrom] = useState<Schemas['ClaimView'] | null>(null);
  const [quantity, setQuantity] = useState('');
  const [reason, setReason] = useState('');
  useUnsaved(from !== null && reason !== '');
  const hand = useMutation<unknown, Problem, Schemas['ClaimView']>({
    mutationFn: (to) => {
      const giver = present(from, 'the order that gives');
      return answer(
        client.POST('/api/reservation-transfers', {
          body: {
            from: giver.order,
            fromLine: giver.line,
            to: to.order,
            toLine: to.line,
            version: to.version,
            quantity,
            reason,
          },
          ...once(),
        }),
      );
    },
    onSuccess: (_, to) => {
      tell(`Transferred from ${from?.order} to ${to.order}.`);
      setFrom(null);
      setReason('');
    },
  });
  if (rows.length === 0) return <div className="muted">Nobody.</div>;
  const decides = may('DECIDE');
  return (
    <>
      {from && (
        <div
          style={{
            display: 'flex',
            gap: 14,
            alignItems: 'end',
            borderLeft: '2px solid var(--sea)',
            paddingLeft: 12,
            margin: '6px 0 10px',
          }}
        >
          <span>
            Transfer from order <b className="mono">{from.order}</b>, which has reserved {trim(from.reserved)}:
          </span>
          <Field of="hand-quantity" label="Quantity" className="wide-80">
            <FigureInput id="hand-quantity" label="Quantity to transfer" value={quantity} onChange={setQuantity} />
          </Field>
          <Field of="hand-reason" label="Reason" className="grows-1">
            <ReasonInput id="hand-reason" value={reason} onChange={setReason} autoFocus />
          </Field>
          <button className="plain" onClick={() => setFrom(null)}>
            Cancel
          </button>
        </div>
      )}
      <ProblemNote problem={hand.error} />
      <Table
        caption="Reservations and waiting orders, in sequence"
        of={rows}
        keyOf={(row) => `${row.order}/${row.line}`}
        rowOf={(row) => ({ className: row === from ? 'at' : '' })}
        columns={[
          {
            head: 'Order',
            cell: (row) => (
              <>
                <Doc kind="ORDER" number={row.order} /> <span className="muted small">line {row.line}</span>
              </>
            ),
          },
          { head: 'Customer', cell: (row) => row.customerName },
          { head: 'Store', cell: (row) => row.site },
          { head: 'Requested', className: 'nowrap', cell: (row) => date(row.requestedOn) },
          { head: 'Holds', num: true, cell: (row) => orDash(trim(row.reserved)) },
          { head: 'Waiting', num: true, cell: (row) => orDash(trim(row.waiting)) },
          decides && {
            className: 'nowrap',
            cell: (row) => (
              <>
                {!from &&
                  !isZero(row.reserved) &&
                  rows.some((other) => other !== row && other.site === row.site && !isZero(other.waiting)) && (
                    <button
                      className="plain small"
                      onClick={() => {
                        setFrom(row);
                        setQuantity(plain(row.reserved));
                      }}
                    >
                      transfer…
                    </button>
                  )}
                {from && row !== from && row.site === from.site && !isZero(row.waiting) && (
                  <button
                    className="plain small"
                    disabled={!quantity || !reason.trim() || hand.isPending}
                    onClick={() => hand.mutate(row)}
                  >
                    to this order
                  </button>
                )}
              </>
            ),
          },
        ]}
      />
    </>
  );
}

/** Import stock receipts. */
function StockFile() {
  const take = useMutation<Schemas['StockReport'], Problem, File>({
    mutationFn: (file) => answer(client.POST('/api/imports/stock', { ...upload(file), ...once() })),
  });
  return (
    <section className="up-to-720">
      <p className="muted small">
        CSV with the columns item, quantity, unit_cost and, where it is not the first one, store. All rows are imported
        or none; a file is imported once.
      </p>
      <input
        type="file"
        accept=".csv,text/csv"
        aria-label="Stock receipt file"
        onChange={(event) => event.target.files?.[0] && take.mutate(event.target.files[0])}
      />
      {take.data && <p className="situation">{take.data.sentence}</p>}
      {take.data?.bad.map((bad) => (
        <div key={`${bad.row}${bad.column}`} className="error small">
          Row {bad.row}, {bad.column}: “{bad.value}”; expected {bad.expected}
        </div>
      ))}
      <ProblemNote problem={take.error} />
    </section>
  );
}
