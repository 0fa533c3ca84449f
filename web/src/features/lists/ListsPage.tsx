import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { DataList } from '../../shared/list/DataList';
import { addressOf } from '../../shared/list/address';
import { isOfDay, listsQuery, type ListView } from '../../shared/list/api';
import { useSession } from '../../shared/session';
import { Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';

/** Lists that stand on a page of their own. */
const PAGES: Record<string, string> = {
  orders: '/orders',
  customers: '/customers',
  items: '/items',
  mails: '/outbox',
  imports: '/orders/imports',
  batches: '/batches',
  undone: '/undone/done',
  'access-changes': '/access/changes',
  'sign-ins': '/access/sign-ins',
};

/** Those of Billing, for whoever reads what stands there. */
const BILLING = ['invoices', 'credit-notes', 'payments', 'deposits', 'refunds', 'write-offs', 'disputes'];

const GROUPS: [string, (list: ListView) => boolean][] = [
  ['Documents and what they are about', (list) => list.day === ''],
  ['Registers, day by day', (list) => list.day !== '' && !isOfDay(list)],
  ['As of the end of a day', isOfDay],
];

/** Every list that somebody reads, with the views that everybody has from the first day on. */
export function ListsPage() {
  const lists = useQuery(listsQuery);
  const session = useSession();
  if (!lists.data) return <Waiting query={lists} />;
  const all = lists.data;
  const placeOf = (list: ListView) =>
    PAGES[list.name] ??
    (BILLING.includes(list.name) && session.reads('SELLING') ? `/billing/${list.name}` : undefined) ??
    (list.day && session.reads('SELLING')
      ? `/billing/${isOfDay(list) ? 'balances' : 'registers'}/${list.name}`
      : `/lists/${list.name}`);
  return (
    <div className="page">
      <div className="page-scroll">
        <h1>Lists</h1>
        {GROUPS.map(([label, isIn]) => [label, all.filter(isIn)] as const)
          .filter(([, of]) => of.length > 0)
          .map(([label, of]) => (
            <section key={label} className="above-14">
              <h2>{label}</h2>
              <Table
                caption={label}
                of={of}
                keyOf={(list) => list.name}
                columns={[
                  {
                    head: 'List',
                    className: 'nowrap wide-260',
                    cell: (list) => <Link to={`${placeOf(list)}?view=`}>{list.title}</Link>,
                  },
                  {
                    head: 'Views',
                    cell: (list) =>
                      list.views.map((view) => (
                        <Link key={view.key} className="apart" to={placeOf(list) + addressOf(view)}>
                          {view.name}
                        </Link>
                      )),
                  },
                ]}
              />
            </section>
          ))}
      </div>
    </div>
  );
}

/** One list. */
export function ListPage() {
  const { list = '' } = useParams();
  return <DataList key={list} name={list} top={<Link to="/lists">Lists</Link>} />;
}
