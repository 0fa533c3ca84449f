import { infiniteQueryOptions, queryOptions, useMutation } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';

export type Sheet = Schemas['SheetView'];
export type Finding = Schemas['FindingView'];
export type Remedy = Schemas['RemedyView'];
export type Sort = 'PRIORITY' | 'REQUESTED' | 'VALUE' | 'AGE';

export type Only = 'HELD' | 'AWAITING' | 'MINE' | 'FLAGGED';

export const reviewQuery = (sort: Sort, reason: string | undefined, only: Only | undefined) =>
  infiniteQueryOptions({
    queryKey: keyOf('review', sort, reason, only),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/review', { params: { query: { sort, reason, only, after: pageParam } } })),
    ...pages,
  });

export const sheetQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('sheet', number),
    queryFn: () => answer(client.GET('/api/review/{number}', { params: { path: { number } } })),
  });

export const remediesQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('remedies', number),
    queryFn: () => answer(client.GET('/api/review/{number}/remedies', { params: { path: { number } } })),
  });

/** Orders in the sequence in which they are to be cleared; the version is what the preview showed. */
export type Asked = { number: string; version?: number; accepted: string[] };

export const previewQuery = (orders: Asked[]) =>
  queryOptions({
    queryKey: keyOf('clearing', orders),
    queryFn: () => answer(client.POST('/api/clearing-previews', { body: { orders } })),
    retry: false,
    enabled: orders.length > 0,
  });

type Body = { params: { path: { number: string } }; headers: Record<string, string> };

/** A command on the order of a sheet. */
const useOnOrder = <Given, Answered>(
  sheet: Sheet,
  send: (request: Body, given: Given) => Promise<{ data?: Answered; error?: unknown; response: Response }>,
) =>
  useMutation({
    mutationFn: (given: Given) => answer(send({ params: { path: { number: sheet.order.number } }, ...once() }, given)),
  });

export const useWaive = (sheet: Sheet) =>
  useOnOrder(sheet, (request, { findings, reason }: { findings: string[]; reason: string }) =>
    client.POST('/api/orders/{number}/waivers', {
      ...request,
      body: { version: sheet.order.version, findings, reason },
    }),
  );

type StepRequest = Body & { body: { version: number; reason: string } };

const STEPS = {
  approvals: (request: StepRequest) => client.POST('/api/orders/{number}/approvals', request),
  'send-backs': (request: StepRequest) => client.POST('/api/orders/{number}/send-backs', request),
  recalls: (request: StepRequest) => client.POST('/api/orders/{number}/recalls', request),
};

/** A step of the request for approval: agreeing, sending back, taking the request back. */
export const useApprovalStep = (sheet: Sheet, step: keyof typeof STEPS) =>
  useOnOrder(sheet, (request, reason: string) =>
    STEPS[step]({ ...request, body: { version: sheet.order.version, reason } }),
  );

export const useDecline = (sheet: Sheet) =>
  useOnOrder(sheet, (request, reason: string) =>
    client.POST('/api/orders/{number}/declination', { ...request, body: { version: sheet.order.version, reason } }),
  );

export const useRemedy = (sheet: Sheet) =>
  useOnOrder(sheet, (request, { check, kind }: Remedy) =>
    client.POST('/api/orders/{number}/remedies', { ...request, body: { version: sheet.order.version, check, kind } }),
  );

export const useNote = (sheet: Sheet) =>
  useOnOrder(sheet, (request, text: string) =>
    client.POST('/api/orders/{number}/notes', { ...request, body: { text } }),
  );

export const useRemind = (sheet: Sheet) =>
  useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/orders/{number}/reminders', {
          params: { path: { number: sheet.order.number } },
          ...once(),
          body: {},
        }),
      ),
  });

/** Clears orders in a sequence as it was shown. */
export const useClear = () =>
  useMutation({
    mutationFn: (given: { orders: Asked[]; reason: string; fingerprint: string }) =>
      answer(
        client.POST('/api/clearings', {
          body: { sequence: { orders: given.orders, reason: given.reason }, fingerprint: given.fingerprint },
          ...once(),
        }),
      ),
  });
