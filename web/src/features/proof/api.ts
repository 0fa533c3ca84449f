import { queryOptions } from '@tanstack/react-query';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';

export const latestProofQuery = queryOptions({
  queryKey: keyOf('proof', 'latest'),
  queryFn: () => answer(client.GET('/api/proofs/latest')),
  refetchInterval: 60_000,
});
