import { queryOptions } from '@tanstack/react-query';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';

export const sitesQuery = queryOptions({
  queryKey: keyOf('sites'),
  queryFn: () => answer(client.GET('/api/sites')),
  staleTime: 300_000,
});

export const findCustomers = (q: string) => answer(client.GET('/api/customers', { params: { query: { q } } }));
export const findItems = (site: string) => (q: string) =>
  answer(client.GET('/api/items', { params: { query: { q, site } } }));
