import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

export type CustomerSheet = Schemas['CustomerSheet'];

export const customerQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('customer', code),
    queryFn: () => answer(client.GET('/api/customers/{code}/sheet', { params: { path: { code } } })),
  });

export const addressQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('customer', code, 'address'),
    queryFn: () => answer(client.GET('/api/customers/{code}/address', { params: { path: { code } } })),
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

export const openDocumentsQuery = (code: string) =>
  queryOptions({
    queryKey: keyOf('customer', code, 'open-documents'),
    queryFn: () => answer(client.GET('/api/customers/{code}/open-documents', { params: { path: { code } } })),
  });

/** The documents of some days, a piece at a time: each begins with the day that the one before had no room for. */
export const documentsQuery = (code: string, from: string, to: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('customer', code, 'documents', from, to),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/customers/{code}/documents', { params: { path: { code }, query: { from: pageParam, to } } }),
      ),
    initialPageParam: from,
    getNextPageParam: (page: Schemas['DocumentsView']) => page.next ?? undefined,
  });
