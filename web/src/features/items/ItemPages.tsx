import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash, price, trim, words } from '../../shared/format';
import { DataList } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { Doc, Empty, Mark, More, ProblemNote, tell, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { Dialog } from '../../shared/ui/Dialog';
import { DialogForm } from '../../shared/ui/DialogForm';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { useWritten } from '../../shared/written';
import { Prices } from './Prices';

const itemQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('item', code),
    queryFn: () => answer(client.GET('/api/items/{code}/sheet', { params: { path: { code } } })),
  });
const claimsQuery = (code: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('claims', code),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/items/{code}/claims', { params: { path: { code }, query: { after: pageParam } } })),
    ...pages,
  });
const quotasQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('quotas', code),
    queryFn: () => answer(client.GET('/api/items/{code}/quotas', { params: { path: { code } } })),
  });

/** All items by name, with what is free and what waits. */
export function ItemListPage() {
  return <DataList name="items" />;
}

/** An item: its stock by store, the orders that hold or want it, its quotas. */
export function ItemPage() {
  const { code = '' } = useParams();
  const query = useQuery(itemQuery(code));
  const item = query.data;
  if (!item) return <Waiting query={query} />;
  return (
    <div className="side-right">
      <div className="page">
        <div className="page-scroll">
          <div className="page-head">
            <h1 className="breaks">{item.name}</h1>
            <span className="mono muted nowrap">{item.code}</span>
          </div>
          <p className="situation">{situation(item)}</p>
          {item.kind === 'STOCK' && (
            <>
              <Table
                caption="Stock by store"
                of={item.shelves}
                keyOf={(shelf) => shelf.site}
                className="inset"
                columns={[
                  { head: 'Store', cell: (shelf) => shelf.siteName },
                  { head: 'On hand', num: true, cell: (shelf) => trim(shelf.onHand) },
                  { head: 'Reserved', num: true, cell: (shelf) => orDash(trim(shelf.reserved)) },
                  { head: 'Free', num: true, cell: (shelf) => trim(shelf.free) },
                  { head: <>Value {currency()}</>, num: true, cell: (shelf) => figure(shelf.value) },
                  {
                    head: <>Average cost {currency()}</>,
                    num: true,
                    cell: (shelf) => (isZero(shelf.onHand) ? '–' : price(shelf.unitCost)),
                  },
                ]}
              />
              {item.shelves.length === 0 && <Empty>Never in stock.</Empty>}
              <Claims code={code} />
            </>
          )}
          {item.price !== null && <Prices code={code} unit={item.unit} list={item.price} />}
          <Quotas code={code} unit={item.unit} />
        </div>
      </div>
      <aside>
        <h2>Terms</h2>
        <Pair what="Price" is={`${currency()} ${price(item.price)} a ${item.unit}`} />
        <Pair what="Floor" is={item.floor === null ? '–' : isZero(item.floor) ? 'none' : price(item.floor)} />
        <Pair what="VAT" is={`${item.vatCategory}, ${trim(item.vatRate)} %`} />
        <Pair what="Minimum stock" is={isZero(item.minStock) ? 'none' : trim(item.minStock)} />
        <Pair what="Lead time" is={item.leadDays === 0 ? 'none' : `${item.leadDays} days`} />
        <Pair what="Class" is={item.itemClass || '–'} />
        <Pair what="Licence class" is={item.regulated || 'none'} />
        {item.kind === 'STOCK' && <Measured item={item} />}
      </aside>
    </div>
  );
}

const situation = (item: Schemas['ItemSheet']) => {
  if (item.kind !== 'STOCK') return `A ${words(item.kind)}, not kept in stock.`;
  return item.shelves.length === 0
    ? 'Out of stock.'
    : item.shelves
        .map((shelf) => `${trim(shelf.free)} ${item.unit} free in the ${shelf.siteName.toLowerCase()}`)
        .join(', ') + '.';
};

function Pair({ what, is }: { what: string; is: string }) {
  return (
    <div className="pair">
      <span className="muted">{what}</span>
      <span>{is}</span>
    </div>
  );
}

/** What a unit weighs and fills; changed here by those who keep master data. */
function Measured({ item }: { item: Schemas['ItemSheet'] }) {
  const { may } = useSession();
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Pair what={`Weight a ${item.unit}`} is={item.weight === null ? 'not known' : `${trim(item.weight)} kg`} />
      <Pair what={`Volume a ${item.unit}`} is={item.volume === null ? 'not known' : `${trim(item.volume)} m³`} />
      {may('KEEP_MASTER_DATA') && (
        <button className="plain small" onClick={() => setAsking(true)}>
          Change weight and volume
        </button>
      )}
      {asking && <Measure item={item} onClose={() => setAsking(false)} />}
    </>
  );
}

function Measure({ item, onClose }: { item: Schemas['ItemSheet']; onClose: () => void }) {
  const written = useWritten({ weight: item.weight ?? '', volume: item.volume ?? '' });
  const { weight, volume } = written.values;
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.PUT('/api/items/{code}/measures', {
          params: { path: { code: item.code } },
          body: { version: item.version, measures: { weight: weight || undefined, volume: volume || undefined } },
          ...once(),
        }),
      ),
    onSuccess: () => {
      tell('Saved.');
      onClose();
    },
    onError: written.refused,
  });
  return (
    <Dialog title={`Weight and volume of ${item.name}`} onClose={onClose}>
      <DialogForm
        action="Save"
        busy={keep.isPending}
        problem={keep.error}
        onGiven={() => keep.mutate()}
        onClose={onClose}
      >
        <div className="fields columns-1fr-1fr">
          <Field of="weight" label={`kg a ${item.unit} (empty: not known)`} error={written.wrong('weight')}>
            <FigureInput id="weight" className="" {...written.of('weight')} />
          </Field>
          <Field of="volume" label={`m³ a ${item.unit}`} error={written.wrong('volume')}>
            <FigureInput id="volume" className="" {...written.of('volume')} />
          </Field>
        </div>
      </DialogForm>
    </Dialog>
  );
}

function Claims({ code }: { code: string }) {
  const list = useInfiniteQuery(claimsQuery(code));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <section className="above-20">
      <h2>Reservations and waiting orders, in sequence</h2>
      {rows.length === 0 ? (
        <p className="muted">{list.isPending ? 'Loading…' : 'None.'}</p>
      ) : (
        <Table
          caption="Reservations and waiting orders, in sequence"
          of={rows}
          keyOf={(row) => `${row.order}/${row.line}`}
          className="inset"
          columns={[
            {
              head: 'Order',
              className: 'nowrap',
              cell: (row) => (
                <>
                  <Doc kind="ORDER" number={row.order} /> <span className="muted small">line {row.line}</span>
                </>
              ),
            },
            { head: 'Customer', className: 'breaks', cell: (row) => row.customerName },
            { head: 'Store', cell: (row) => row.site },
            { head: 'Requested', className: 'nowrap', cell: (row) => date(row.requestedOn) },
            { head: 'Reserved', num: true, cell: (row) => orDash(trim(row.reserved)) },
            { head: 'Waits', num: true, cell: (row) => orDash(trim(row.waiting)) },
          ]}
        />
      )}
      <More query={list} />
    </section>
  );
}

/** What may be sold of a rationed item in a season, to whom, and how much of it was. */
function Quotas({ code, unit }: { code: string; unit: string }) {
  const { may } = useSession();
  const query = useQuery(quotasQuery(code));
  const [asking, setAsking] = useState(false);
  const quotas = query.data ?? [];
  return (
    <section className="above-20">
      <h2>Quotas</h2>
      {quotas.length === 0 && <p className="muted">Not rationed.</p>}
      {quotas.length > 0 && (
        <Table
          caption="Quotas"
          of={quotas}
          keyOf={(quota) => quota.scope + quota.key + quota.from}
          className="inset"
          columns={[
            {
              head: 'For',
              cell: (quota) => (
                <>
                  {words(quota.scope)} {quota.key}
                </>
              ),
            },
            {
              head: 'Season',
              className: 'nowrap',
              cell: (quota) => (
                <>
                  {date(quota.from)} to {date(quota.to)}
                </>
              ),
            },
            { head: 'Granted', num: true, cell: (quota) => trim(quota.granted) },
            { head: 'Used', num: true, cell: (quota) => trim(quota.used) },
            {
              head: 'Left',
              num: true,
              cell: (quota) => (
                <>
                  {quota.left.startsWith('-') && <Mark of="stop" />}
                  {trim(quota.left)}
                </>
              ),
            },
            {
              width: 'wide-160',
              cell: (quota) => (
                <div
                  className="measure"
                  role="img"
                  aria-label={`${quota.used} of ${quota.granted} used`}
                  style={{ height: 10, margin: '4px 0' }}
                >
                  <i
                    style={{
                      width: `${Math.min(100, isZero(quota.granted) ? 100 : (Number(quota.used) / Number(quota.granted)) * 100)}%`,
                      background: 'var(--rule-strong)',
                    }}
                  />
                </div>
              ),
            },
          ]}
        />
      )}
      {may('KEEP_MASTER_DATA') && !asking && (
        <button className="plain small above-6" onClick={() => setAsking(true)}>
          Grant a quota
        </button>
      )}
      {asking && <Grant code={code} unit={unit} onDone={() => setAsking(false)} />}
    </section>
  );
}

function Grant({ code, unit, onDone }: { code: string; unit: string; onDone: () => void }) {
  const { today } = useSession();
  const written = useWritten<Required<Schemas['GivenQuota']>>({
    scope: 'CUSTOMER',
    key: '',
    granted: '',
    from: `${today.slice(0, 4)}-01-01`,
    to: `${today.slice(0, 4)}-12-31`,
  });
  const given = written.values;
  const grant = useMutation({
    mutationFn: () =>
      answer(client.PUT('/api/items/{code}/quotas', { params: { path: { code } }, body: given, ...once() })),
    onSuccess: () => {
      tell('Quota granted. Open orders are measured against it at their next check.');
      onDone();
    },
    onError: written.refused,
  });
  useUnsaved(written.touched);
  const day = (id: 'from' | 'to', label: string) => (
    <Field of={`quota-${id}`} label={label} error={written.wrong(id)}>
      <DayInput id={`quota-${id}`} {...written.of(id)} />
    </Field>
  );
  return (
    <form
      className="above-8"
      onSubmit={(event) => {
        event.preventDefault();
        grant.mutate();
      }}
    >
      <div className="fields columns-110px-1fr-110px-140px-140px below-8">
        <Field of="quota-scope" label="For a">
          <Choice id="quota-scope" {...written.of('scope')}>
            <option value="CUSTOMER">customer</option>
            <option value="REGION">region</option>
            <option value="SELLER">seller</option>
          </Choice>
        </Field>
        <Field
          of="quota-key"
          label={given.scope === 'CUSTOMER' ? 'Customer code' : given.scope === 'REGION' ? 'Region' : 'User name'}
          error={written.wrong('key')}
        >
          <TextLine id="quota-key" {...written.of('key')} />
        </Field>
        <Field of="quota-granted" label={`Granted, ${unit}`} error={written.wrong('granted')}>
          <FigureInput id="quota-granted" className="" {...written.of('granted')} />
        </Field>
        {day('from', 'From')}
        {day('to', 'To')}
      </div>
      <ProblemNote problem={grant.error} />
      <button type="submit" className="button first" disabled={grant.isPending || !given.key || !given.granted}>
        Grant
      </button>{' '}
      <button type="button" className="button" onClick={onDone}>
        Cancel
      </button>
    </form>
  );
}
