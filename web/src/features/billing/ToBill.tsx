import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { figure, isZero, plain } from '../../shared/format';
import { codeIn, DataList } from '../../shared/list/DataList';
import type { Row } from '../../shared/list/api';
import { useSession } from '../../shared/session';
import { Doc, ProblemNote, tell, tellProblem, Waiting } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { useUnsaved } from '../../shared/unsaved';
import { BatchLog, LogsLink } from '../batch';
import { BillingTabs } from './BillingTabs';
import { toBillQuery } from './api';

/** Orders with something to bill: each customer's on an invoice of its own, or some of one customer on one, in other quantities on wish. */
export function ToBill() {
  const { may } = useSession();
  const [inQuantities, setInQuantities] = useState<{ orders: string[]; none: () => void } | null>(null);
  const bill = useBilling();
  const each = useMutation({
    mutationFn: (rows: Row[]) => {
      const customers = [...new Set(rows.map((row) => codeIn(row, 'customer')))];
      const invoices = customers.map((customer) => ({
        orders: rows.filter((row) => codeIn(row, 'customer') === customer).map((row) => row.opens),
      }));
      return answer(client.POST('/api/batches/billings', { body: { invoices }, ...once() }));
    },
    onError: tellProblem,
  });
  return (
    <>
      <DataList
        name="to-bill"
        top={<BillingTabs />}
        place={(row) => `/orders/${row.opens}`}
        selected={(chosen, { none }) => {
          const orders = chosen.map((row) => row.opens);
          const customers = new Set(chosen.map((row) => codeIn(row, 'customer')));
          const isOne = may('BILL') && !bill.isPending && customers.size === 1 && !customers.has('');
          return (
            <div className="bar">
              <button
                className="button first"
                disabled={!isOne}
                onClick={() => bill.mutate({ orders }, { onSuccess: none, onError: tellProblem })}
              >
                Bill {orders.length > 1 ? `${orders.length} orders on one invoice` : 'the order'}
              </button>
              <button className="button" disabled={!isOne} onClick={() => setInQuantities({ orders, none })}>
                In other quantities
              </button>
              <button
                className="button"
                disabled={!may('BILL') || each.isPending || orders.length === 0 || customers.has('')}
                onClick={() => each.mutate(chosen, { onSuccess: none })}
              >
                Bill {orders.length || ''} selected, one invoice per customer
              </button>
              <span className="muted small">
                {customers.has('')
                  ? 'Show the column Customer to bill from here.'
                  : customers.size > 1
                    ? 'An invoice covers orders of one customer.'
                    : 'The invoice gets its number when it is posted.'}
              </span>
              <span className="gap" />
              <Link className="small" to="/billing/direct">
                Direct invoice
              </Link>
              <LogsLink of="BILLING" />
            </div>
          );
        }}
      />
      {inQuantities && <Quantities {...inQuantities} onClose={() => setInQuantities(null)} />}
      <BatchLog batch={each.data} onClose={each.reset} />
    </>
  );
}

function useBilling() {
  return useMutation({
    mutationFn: (body: { orders: string[]; lines?: Schemas['BilledLine'][] }) =>
      answer(client.POST('/api/invoices', { body, ...once() })),
    onSuccess: (invoice) => tell(`Billed as invoice ${invoice.number}, ${currency()} ${figure(invoice.gross)}.`),
  });
}

/** What of the orders goes on the invoice, line by line. */
function Quantities({ orders, none, onClose }: { orders: string[]; none: () => void; onClose: () => void }) {
  const query = useQuery(toBillQuery(orders));
  const [quantities, setQuantities] = useState<Record<string, string>>({});
  const bill = useBilling();
  useUnsaved(Object.keys(quantities).length > 0);
  const lines = (query.data ?? []).flatMap(({ order, lines: of }) =>
    of.map((line) => ({ ...line, order, key: `${order}/${line.line}` })),
  );
  const submit = () =>
    bill.mutate(
      {
        orders,
        lines: lines
          .map(({ order, line, key, toBill }) => ({ order, line, quantity: quantities[key] ?? toBill }))
          .filter((line) => !isZero(line.quantity)),
      },
      {
        onSuccess: () => {
          none();
          onClose();
        },
      },
    );
  return (
    <Dialog
      onClose={onClose}
      title={`What of ${orders.length === 1 ? `order ${orders[0]}` : `${orders.length} orders`} to bill`}
      size="lg"
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!bill.isPending) submit();
        }}
      >
        {query.data ? (
          <Table
            caption="Lines to bill"
            of={lines}
            keyOf={(line) => line.key}
            columns={[
              { head: 'Order', cell: (line) => <Doc kind="ORDER" number={line.order} /> },
              { head: 'Shipped or done', cell: (line) => line.description },
              {
                head: 'To bill',
                num: true,
                className: 'wide-90',
                cell: (line) => (
                  <FigureInput
                    label={`Quantity of ${line.key}`}
                    value={quantities[line.key] ?? plain(line.toBill)}
                    onChange={(to) => setQuantities({ ...quantities, [line.key]: to })}
                  />
                ),
              },
              { head: <>Net {currency()} of all</>, num: true, cell: (line) => figure(line.net) },
            ]}
          />
        ) : (
          <Waiting query={query} />
        )}
        <ProblemNote problem={bill.error} />
        <button type="submit" className="button first above-14" disabled={lines.length === 0 || bill.isPending}>
          {bill.isPending ? 'Billing…' : 'Bill'} <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}
