import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

export type CustomerSheet = Schemas['CustomerSheet'];

export const customersQuery = (q: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('customers', q),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/customer-list', { params: { query: { q, after: pageParam } } })),
    ...pages,
  });

export const customerQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('customer', code),
    queryFn: () => answer(client.GET('/api/customers/{code}/sheet', { params: { path: { code } } })),
  });

export const positionQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('position', code),
    queryFn: () => answer(client.GET('/api/customers/{code}/position', { params: { path: { code } } })),
  });

export const posQuery = (code: string, q: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('po-numbers', code, q),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/customers/{code}/po-numbers', { params: { path: { code }, query: { q, after: pageParam } } }),
      ),
    ...pages,
  });

export const openOrdersQuery = (code: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('orders', 'of', code),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/orders', { params: { query: { customer: code, after: pageParam } } })),
    ...pages,
  });

export const openInvoicesQuery = (code: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('invoices', 'of', code),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/invoices', { params: { query: { customer: code, open: true, after: pageParam } } })),
    ...pages,
  });
