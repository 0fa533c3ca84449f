import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

export type Agreement = Schemas['SalesAgreementView'];
export type Kind = Agreement['kind'];

/** What each kind is called, and what is done with it. */
export const WORDS: Record<Kind, { one: string; many: string; tab: string; end: string; make: string }> = {
  QUOTE: { one: 'quote', many: 'Quotes', tab: 'quotes', end: 'Lost', make: 'Create the order' },
  BLANKET_ORDER: { one: 'blanket order', many: 'Blanket orders', tab: 'blanket', end: 'End', make: 'Call off' },
  RECURRING_ORDER: {
    one: 'recurring order',
    many: 'Recurring orders',
    tab: 'recurring',
    end: 'End',
    make: 'Create the order',
  },
};

export const agreementsQuery = (kind: Kind | undefined, due: boolean) =>
  infiniteQueryOptions({
    queryKey: keyOf('agreements', kind, due),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/sales-agreements', { params: { query: { kind, due, after: pageParam } } })),
    ...pages,
  });

export const agreementQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('agreement', number),
    queryFn: () => answer(client.GET('/api/sales-agreements/{number}', { params: { path: { number } } })),
  });

export const writeAgreement = (kind: Kind, content: Schemas['WrittenAgreement']) =>
  answer(client.POST('/api/sales-agreements', { body: { kind, content }, ...once() }));

export const changeAgreement = (number: string, version: number, content: Schemas['WrittenAgreement']) =>
  answer(
    client.PUT('/api/sales-agreements/{number}', {
      params: { path: { number } },
      body: { version, content },
      ...once(),
    }),
  );

export const makeOrder = (number: string, body: Schemas['MadeOrder']) =>
  answer(client.POST('/api/sales-agreements/{number}/orders', { params: { path: { number } }, body, ...once() }));

export const closeAgreement = (number: string, version: number, reason: string) =>
  answer(
    client.POST('/api/sales-agreements/{number}/closing', {
      params: { path: { number } },
      body: { version, reason },
      ...once(),
    }),
  );

export const skipDue = (number: string, version: number) =>
  answer(
    client.POST('/api/sales-agreements/{number}/skips', { params: { path: { number } }, body: { version }, ...once() }),
  );
