import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';

export type Outline = Schemas['OutlineView'];
export type Kind = Outline['kind'];

/** What each kind is called, and what is done with it. */
export const WORDS: Record<Kind, { one: string; many: string; tab: string; end: string; make: string }> = {
  QUOTE: { one: 'quote', many: 'Quotes', tab: 'quotes', end: 'Lost', make: 'Turn into an order' },
  BLANKET_ORDER: { one: 'blanket order', many: 'Blanket orders', tab: 'blanket', end: 'End it', make: 'Call off' },
  RECURRING_ORDER: {
    one: 'recurring order',
    many: 'Recurring orders',
    tab: 'recurring',
    end: 'End it',
    make: 'Make the order',
  },
};

export const outlinesQuery = (kind: Kind | undefined, due: boolean) =>
  infiniteQueryOptions({
    queryKey: ['outlines', kind, due],
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/outlines', { params: { query: { kind, due, after: pageParam } } })),
    ...pages,
  });

export const outlineQuery = (number: string) =>
  queryOptions({
    queryKey: ['outline', number],
    queryFn: () => answer(client.GET('/api/outlines/{number}', { params: { path: { number } } })),
  });

export const writeOutline = (kind: Kind, content: Schemas['WrittenOutline']) =>
  answer(client.POST('/api/outlines', { body: { kind, content }, ...once() }));

export const changeOutline = (number: string, version: number, content: Schemas['WrittenOutline']) =>
  answer(client.PUT('/api/outlines/{number}', { params: { path: { number } }, body: { version, content }, ...once() }));

export const makeOrder = (number: string, body: Schemas['MadeOrder']) =>
  answer(client.POST('/api/outlines/{number}/orders', { params: { path: { number } }, body, ...once() }));

export const closeOutline = (number: string, version: number, reason: string) =>
  answer(
    client.POST('/api/outlines/{number}/closing', {
      params: { path: { number } },
      body: { version, reason },
      ...once(),
    }),
  );

export const skipDue = (number: string, version: number) =>
  answer(client.POST('/api/outlines/{number}/skips', { params: { path: { number } }, body: { version }, ...once() }));
