import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

export type Goods = Schemas['ReturnView'];
export type GoodsLine = Schemas['ReturnLineView'];
export const returnQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('return', number),
    queryFn: () => answer(client.GET('/api/returns/{number}', { params: { path: { number } } })),
  });

/** Whose goods, and which of them. */
export type Which = { customer?: string; order?: string; dispatch?: string; invoice?: string; item?: string };

export const returnableQuery = (which: Which) =>
  infiniteQueryOptions({
    queryKey: keyOf('returnable', which),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/returnable', { params: { query: { ...which, after: pageParam } } })),
    enabled: [which.customer, which.order, which.dispatch, which.invoice].some(Boolean),
    ...pages,
  });

export const unexpectedQuery = (waiting: boolean) =>
  infiniteQueryOptions({
    queryKey: keyOf('unexpected', waiting),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/unexpected-goods', { params: { query: { waiting, after: pageParam } } })),
    ...pages,
  });
