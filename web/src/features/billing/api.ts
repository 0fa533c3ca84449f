import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

/** What there is to bill of some orders, line by line. */
export const toBillQuery = (orders: string[]) =>
  queryOptions({
    queryKey: keyOf('billing', 'to-bill', orders.join()),
    queryFn: () => answer(client.GET('/api/billing/to-bill', { params: { query: { orders } } })),
  });
export const openInvoicesQuery = (customer: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('billing', 'invoices', customer),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/invoices', { params: { query: { open: true, customer, after: pageParam } } })),
    ...pages,
  });
export const depositsQuery = (order: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('billing', 'deposits', order),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/deposits', { params: { query: { open: false, order, after: pageParam } } })),
    ...pages,
  });
export const depositQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'deposit', number),
    queryFn: () => answer(client.GET('/api/deposits/{number}', { params: { path: { number } } })),
  });
export const paymentQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'payment', number),
    queryFn: () => answer(client.GET('/api/payments/{number}', { params: { path: { number } } })),
  });
export const invoiceQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'invoice', number),
    queryFn: () => answer(client.GET('/api/invoices/{number}', { params: { path: { number } } })),
  });
export const invoiceActionsQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'invoice', number, 'actions'),
    queryFn: () => answer(client.GET('/api/invoices/{number}/actions', { params: { path: { number } } })),
  });
export const writeOffQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'write-off', number),
    queryFn: () => answer(client.GET('/api/write-offs/{number}', { params: { path: { number } } })),
  });
export const disputesOfQuery = (invoice: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'disputes', 'of', invoice),
    queryFn: () => answer(client.GET('/api/invoices/{number}/disputes', { params: { path: { number: invoice } } })),
  });
export const creditNoteQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('billing', 'credit-note', number),
    queryFn: () => answer(client.GET('/api/credit-notes/{number}', { params: { path: { number } } })),
  });
/** Credit notes of which something is left that the customer wants back. */
export const wishedBackQuery = infiniteQueryOptions({
  queryKey: keyOf('billing', 'credit-notes'),
  queryFn: ({ pageParam }) =>
    answer(client.GET('/api/credit-notes', { params: { query: { open: true, wish: 'REFUND', after: pageParam } } })),
  ...pages,
});
export const payoutsQuery = infiniteQueryOptions({
  queryKey: keyOf('billing', 'payouts'),
  queryFn: ({ pageParam }) => answer(client.GET('/api/payouts', { params: { query: { after: pageParam } } })),
  // what is on its way gets there without anybody asking
  refetchInterval: (query) =>
    query.state.data?.pages.some((page) => page.rows.some((row) => row.state === 'WAITING' || row.state === 'SENDING'))
      ? 1500
      : false,
  ...pages,
});
export const bankStatementsQuery = infiniteQueryOptions({
  queryKey: keyOf('billing', 'bank'),
  queryFn: ({ pageParam }) => answer(client.GET('/api/bank-statements', { params: { query: { after: pageParam } } })),
  ...pages,
});
export const bankStatementQuery = (id: number) =>
  queryOptions({
    queryKey: keyOf('billing', 'bank', id, 'statement'),
    queryFn: () => answer(client.GET('/api/bank-statements/{id}', { params: { path: { id } } })),
  });
export const bankEntriesQuery = (id: number) =>
  infiniteQueryOptions({
    queryKey: keyOf('billing', 'bank', id),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/bank-statements/{id}/entries', { params: { path: { id }, query: { after: pageParam } } }),
      ),
    ...pages,
  });
