import { QueryClient } from '@tanstack/react-query';
import { Problem, type Schemas } from '../shared/api/http';
import { takeCurrency } from '../shared/currency';
import { sessionQuery } from '../shared/session';

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => !(error instanceof Problem && error.status < 500) && count < 2,
    },
    mutations: { retry: false },
  },
});

/** Another person sits down, or nobody: nothing that the last one saw stays. */
export function startSession(session: Schemas['SessionView']) {
  takeCurrency(session.currency);
  queries.setQueryData(sessionQuery.queryKey, session);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== sessionQuery.queryKey[0] });
}
