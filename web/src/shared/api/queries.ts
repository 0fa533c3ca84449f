import { MutationCache, QueryClient } from '@tanstack/react-query';
import { whileReadAgain } from '../busy';
import { takeCurrency } from '../currency';
import { takeDecimalMark } from '../figures';
import { sessionQuery } from '../session';
import { Problem, type Schemas } from './http';
import { keyOf } from './keyOf';

/** Previews are asked for anew where they are shown; the session changes with who sits there. */
const KEPT: readonly unknown[] = [...keyOf('session'), ...keyOf('clearing')];

export const queries: QueryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // without a network a question fails like any other, and can be asked again
      networkMode: 'always',
      retry: (count, error) => !(error instanceof Problem && error.status < 500) && count < 2,
    },
    mutations: { retry: false, networkMode: 'always' },
  },
  // a command is over when what it changed has been read again: nothing is then done on the strength of what was before
  mutationCache: new MutationCache({
    onSettled: () => {
      whileReadAgain(readAgain());
    },
  }),
});

/** Has whatever is shown read again. */
export const readAgain = (): Promise<void> =>
  queries.invalidateQueries({ predicate: (query) => !KEPT.includes(query.queryKey[0]) });

/** Another person sits down, or nobody: nothing that the last one saw stays. */
export function startSession(session: Schemas['SessionView']) {
  takeCurrency(session.currency);
  takeDecimalMark(session.decimalMark);
  queries.setQueryData(sessionQuery.queryKey, session);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== sessionQuery.queryKey[0] });
}
