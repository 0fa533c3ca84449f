import { Navigate, NavLink, useParams, useSearchParams } from 'react-router';
import { DataList } from '../../shared/list/DataList';
import { askedIn } from '../../shared/list/address';
import { Empty } from '../../shared/ui';
import { BillingTabs } from './BillingTabs';

type Tab = readonly [list: string, label: string];

const REGISTERS: readonly Tab[] = [
  ['sales-register', 'Sales'],
  ['credit-note-register', 'Credit notes'],
  ['receipts-register', 'Receipts'],
  ['write-off-register', 'Write-offs'],
  ['dispatch-register', 'Dispatches'],
  ['returns-register', 'Returns'],
];

const BALANCES: readonly Tab[] = [
  ['shipped-not-billed', 'Shipped, not billed'],
  ['billed-not-shipped', 'Billed, not shipped'],
  ['open-invoices', 'Open invoices'],
  ['on-account', 'Customer credit'],
  ['unapplied-deposits', 'Unapplied deposits'],
  ['in-inspection', 'In inspection'],
];

/** The next list is looked at for the same days. */
function daysOf(search: URLSearchParams, day: string): string {
  const kept = new URLSearchParams();
  askedIn(search)
    .filter.filter((one) => one.startsWith(`${day}:`))
    .forEach((one) => kept.append('filter', one));
  if (kept.size === 0) kept.set('view', '');
  return kept.toString();
}

function OneOf({ tabs, place, day, label }: { tabs: readonly Tab[]; place: string; day: string; label: string }) {
  const { list } = useParams();
  const [search] = useSearchParams();
  if (!tabs.some(([name]) => name === list)) return <Empty>This page does not exist.</Empty>;
  return (
    <DataList
      key={list}
      name={list ?? ''}
      top={<BillingTabs />}
      tabs={
        <nav className="tabs" aria-label={label}>
          {tabs.map(([name, words]) => (
            <NavLink key={name} to={`${place}/${name}?${daysOf(search, day)}`} end>
              {words}
            </NavLink>
          ))}
        </nav>
      }
      className={(row) => (row.cells.side === 'REVERSED' ? 'dropped' : '')}
    />
  );
}

/** Documents day by day with the ledger of the same days beside them. */
export function RegistersPage() {
  const { list } = useParams();
  if (!list) return <Navigate to="/billing/registers/sales-register?filter=enteredOn:in:this-month" replace />;
  return <OneOf tabs={REGISTERS} place="/billing/registers" day="enteredOn" label="Registers" />;
}

/** What stood at the end of a day beside the balance of its account. */
export function BalancesPage() {
  const { list } = useParams();
  if (!list) return <Navigate to="/billing/balances/shipped-not-billed?view=" replace />;
  return <OneOf tabs={BALANCES} place="/billing/balances" day="asOf" label="As of a day" />;
}
