import { queryOptions, useQuery } from '@tanstack/react-query';
import { answer, client, sessionEnded, type Schemas } from './api/http';
import { takeCurrency } from './currency';
import { takeDecimalMark } from './figures';

type Session = Schemas['SessionView'];

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async ({ client: queries }) => {
    const session = await answer(client.GET('/api/session'));
    takeCurrency(session.currency);
    takeDecimalMark(session.decimalMark);
    const before = queries.getQueryData<Session>(['session']);
    if (session.username || !before?.username) return session;
    // what is on the screen stays there until whoever sits here has signed in again
    sessionEnded();
    return before;
  },
  staleTime: 60_000,
});

/** Who is signed in; only to be used below the frame, which sees to it that someone is. */
export function useSession(): Schemas['SessionView'] {
  const { data } = useQuery(sessionQuery);
  if (!data) throw new Error('there is no session yet');
  return data;
}

const DAY = ['CONTROLLER', 'LEAD'];
const MAY = {
  enter: ['CLERK', ...DAY],
  decide: DAY,
  moveGoods: ['WAREHOUSE', ...DAY],
  bill: ['RECEIVABLES', ...DAY],
  rule: ['LEAD', 'ADMIN'],
  keepUsers: ['ADMIN'],
  post: ['CLERK', 'WAREHOUSE', 'RECEIVABLES', ...DAY],
  dateFarBack: ['LEAD'],
  print: ['CLERK', 'WAREHOUSE', 'RECEIVABLES', ...DAY],
  prove: ['AUDITOR', ...DAY],
};

const ALL = ['CLERK', 'WAREHOUSE', 'RECEIVABLES', 'CONTROLLER', 'LEAD', 'AUDITOR', 'ADMIN'];
const READS = {
  goods: ALL.filter((role) => role !== 'ADMIN'),
  selling: ALL.filter((role) => role !== 'ADMIN' && role !== 'WAREHOUSE'),
  settings: ALL.filter((role) => role !== 'WAREHOUSE'),
  costs: ['CONTROLLER', 'LEAD', 'AUDITOR'],
  books: ['RECEIVABLES', 'CONTROLLER', 'LEAD', 'AUDITOR'],
  access: ['LEAD', 'AUDITOR', 'ADMIN'],
  all: ALL,
};

/** Whether a role reads a kind of thing: a copy for comfort, the server decides. */
export const reads = (role: string, what: keyof typeof READS) => READS[what].includes(role);

/** Whether a role may give a kind of command: a copy for comfort, the server decides. */
export const may = (role: string, what: keyof typeof MAY) => MAY[what].includes(role);
