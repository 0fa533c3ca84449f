import { infiniteQueryOptions, queryOptions, useMutation } from '@tanstack/react-query';
import { queries } from '../../app/queries';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';

export type Sheet = Schemas['SheetView'];
export type Finding = Schemas['FindingView'];
export type Sort = 'STAKE' | 'REQUESTED' | 'VALUE' | 'AGE';

export type Only = 'HELD' | 'AWAITING' | 'FLAGGED';

export const reviewQuery = (sort: Sort, reason: string | undefined, only: Only | undefined) =>
  infiniteQueryOptions({
    queryKey: ['review', sort, reason, only],
    queryFn: ({ pageParam }) => answer(client.GET('/api/review', { params: { query: { sort, reason, only, after: pageParam } } })),
    ...pages,
  });

export const sheetQuery = (number: string) =>
  queryOptions({
    queryKey: ['sheet', number],
    queryFn: () => answer(client.GET('/api/review/{number}', { params: { path: { number } } })),
  });

/** Whatever was done to documents, lists and sheets show it at once. */
export const refreshAll = () => queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'session' });

export const useWaive = (sheet: Sheet) =>
  useMutation({
    mutationFn: ({ findings, reason }: { findings: string[]; reason: string }) =>
      answer(
        client.POST('/api/orders/{number}/waivers', {
          params: { path: { number: sheet.order.number } },
          body: { version: sheet.order.version, findings, reason },
          ...once(),
        }),
      ),
    onSettled: refreshAll,
  });

type StepRequest = { params: { path: { number: string } }; body: { version: number; reason: string }; headers: Record<string, string> };

const STEPS = {
  approvals: (request: StepRequest) => client.POST('/api/orders/{number}/approvals', request),
  'send-backs': (request: StepRequest) => client.POST('/api/orders/{number}/send-backs', request),
  recalls: (request: StepRequest) => client.POST('/api/orders/{number}/recalls', request),
};

/** A step of the request for approval: agreeing, sending back, taking the request back. */
export const useApprovalStep = (sheet: Sheet, step: keyof typeof STEPS) =>
  useMutation({
    mutationFn: (reason: string) =>
      answer(STEPS[step]({ params: { path: { number: sheet.order.number } }, body: { version: sheet.order.version, reason }, ...once() })),
    onSettled: refreshAll,
  });

export const useDecline = (sheet: Sheet) =>
  useMutation({
    mutationFn: (reason: string) =>
      answer(
        client.POST('/api/orders/{number}/declination', {
          params: { path: { number: sheet.order.number } },
          body: { version: sheet.order.version, reason },
          ...once(),
        }),
      ),
    onSettled: refreshAll,
  });
