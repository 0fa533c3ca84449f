import { queryOptions } from '@tanstack/react-query';
import { answer, client } from './http';
import { keyOf } from './keyOf';

/** Who can sign in, to be named as an owner, a reader or a stand-in. */
export const usersQuery = queryOptions({
  queryKey: keyOf('users'),
  queryFn: () => answer(client.GET('/api/users')),
  staleTime: 300_000,
});
