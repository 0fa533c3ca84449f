import { queryOptions, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { price, trim } from '../../shared/format';
import { useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';

type Break = Schemas['PriceBreak'];

const pricesQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('prices', code),
    queryFn: () => answer(client.GET('/api/items/{code}/prices', { params: { path: { code } } })),
  });

/** The price list of an item: everybody's and single customers' prices from a quantity on. */
export function Prices({ code, unit, list }: { code: string; unit: string; list: string }) {
  const { may } = useSession();
  const { data } = useQuery(pricesQuery(code));
  const [edited, setEdited] = useState<Break[] | null>(null);
  useUnsaved(edited !== null);
  const set = useMutation({
    mutationFn: (breaks: Break[]) =>
      answer(client.PUT('/api/items/{code}/prices', { params: { path: { code } }, body: { breaks }, ...once() })),
    onSuccess: () => {
      setEdited(null);
      tell('The prices apply to lines entered from now on.');
    },
  });
  const locked = !may('KEEP_MASTER_DATA');
  const rows = edited ?? data?.breaks ?? [];
  const change = (at: number, changed: Partial<Break>) =>
    setEdited(rows.map((row, index) => (index === at ? { ...row, ...changed } : row)));
  const input = (at: number, field: 'from' | 'price', label: string, shown: string) => (
    <FigureInput label={`${label} of price ${at + 1}`} value={shown} onChange={(to) => change(at, { [field]: to })} />
  );
  return (
    <section className="above-20">
      <h2>Prices by quantity and customer</h2>
      {rows.length === 0 && <p className="muted">All customers {price(list)}.</p>}
      {rows.length > 0 && (
        <Table
          caption="Prices by quantity and customer"
          of={rows}
          keyOf={(_, at) => at}
          className="inset up-to-560"
          columns={[
            {
              head: 'Customer',
              cell: (row, at) =>
                edited ? (
                  <TextLine
                    className="cell-input mono"
                    aria-label={`Customer of price ${at + 1}`}
                    value={row.customer ?? ''}
                    onChange={(to) => change(at, { customer: to })}
                  />
                ) : row.customer ? (
                  <span className="mono">{row.customer}</span>
                ) : (
                  'everybody'
                ),
            },
            {
              head: <>From, {unit}</>,
              num: true,
              cell: (row, at) => (edited ? input(at, 'from', 'Quantity', row.from) : trim(row.from)),
            },
            {
              head: <>Price {currency()}</>,
              num: true,
              cell: (row, at) => (edited ? input(at, 'price', 'Price', row.price) : price(row.price)),
            },
            {
              cell: (_, at) =>
                !locked && (
                  <button
                    className="plain small nowrap"
                    onClick={() => setEdited(rows.filter((_, index) => index !== at))}
                  >
                    remove
                  </button>
                ),
            },
          ]}
        />
      )}
      <ProblemNote problem={set.error} />
      {!locked && (
        <div className="row gap-10 above-6 aligned-center">
          <button className="plain small" onClick={() => setEdited([...rows, { customer: '', from: '', price: '' }])}>
            + price (customer code, or empty for all customers)
          </button>
          {edited && (
            <>
              <button
                className="button first"
                disabled={set.isPending || rows.some((row) => !row.from || !row.price)}
                onClick={() => set.mutate(rows)}
              >
                Save prices
              </button>
              <button className="button" onClick={() => setEdited(null)}>
                Reset
              </button>
            </>
          )}
        </div>
      )}
    </section>
  );
}
