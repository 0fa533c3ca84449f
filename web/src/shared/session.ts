import { queryOptions, useQuery } from '@tanstack/react-query';
import { answer, client, sessionEnded, type Schemas } from './api/http';
import { keyOf } from './api/keyOf';
import { takeCurrency } from './currency';
import { takeDecimalMark } from './figures';

type Session = Schemas['SessionView'];

export const sessionQuery = queryOptions({
  queryKey: keyOf('session'),
  queryFn: async ({ client: queries }) => {
    const session = await answer(client.GET('/api/session'));
    takeCurrency(session.currency);
    takeDecimalMark(session.decimalMark);
    const before = queries.getQueryData<Session>(keyOf('session'));
    if (session.username || !before?.username) return session;
    // what is on the screen stays there until whoever sits here has signed in again
    sessionEnded();
    return before;
  },
  staleTime: 60_000,
});

/** What somebody may do; the server says it, and refuses the rest. */
export type Right = Session['may'][number];

/** What somebody may read. */
export type Readable = Session['reads'][number];

/** Who is signed in, and what they may; only to be used below the frame, which sees to it that someone is. */
export function useSession() {
  const { data } = useQuery(sessionQuery);
  if (!data) throw new Error('there is no session yet');
  return {
    ...data,
    may: (right: Right) => data.may.includes(right),
    reads: (what: Readable) => data.reads.includes(what),
  };
}
