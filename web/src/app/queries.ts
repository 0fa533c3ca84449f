import { QueryClient } from '@tanstack/react-query';
import { Problem } from '../shared/api/http';

export const queries = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 5_000, retry: (count, error) => !(error instanceof Problem && error.status < 500) && count < 2 },
    mutations: { retry: false },
  },
});
