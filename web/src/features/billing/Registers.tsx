import { Navigate, NavLink, useParams, useSearchParams } from 'react-router';
import { DataList } from '../../shared/list/DataList';
import { asking, askedIn } from '../../shared/list/address';
import { useMonths } from '../../shared/list/months';
import { Empty } from '../../shared/ui';
import { Choice } from '../../shared/ui/fields';
import { BillingTabs } from './BillingTabs';

const REGISTERS = [
  ['sales-register', 'Sales'],
  ['credit-note-register', 'Credit notes'],
  ['receipts-register', 'Receipts'],
  ['write-off-register', 'Write-offs'],
] as const;

const DAY = 'enteredOn';
const THIS_MONTH = `?filter=${DAY}:in:this-month`;

/** The days of a register: all of a month, or whatever else is filtered. */
function Months() {
  const [search, setSearch] = useSearchParams();
  const asked = askedIn(search);
  const months = [['this-month', 'this month'], ['last-month', 'last month'], ...useMonths()] as [string, string][];
  const said = asked.filter.find((one) => one.startsWith(`${DAY}:in:`))?.slice(`${DAY}:in:`.length) ?? '';
  return (
    <Choice
      label="Month"
      className="cell-input wide-180"
      of={[['', 'other days'], ...months]}
      value={months.some(([month]) => month === said) ? said : ''}
      onChange={(month) =>
        setSearch(
          asking(search, {
            ...asked,
            filter: [
              ...(month ? [`${DAY}:in:${month}`] : []),
              ...asked.filter.filter((one) => !one.startsWith(`${DAY}:`)),
            ],
          }),
        )
      }
    />
  );
}

/** The next register is looked at for the same days. */
function daysOf(search: URLSearchParams): string {
  const kept = new URLSearchParams();
  askedIn(search)
    .filter.filter((one) => one.startsWith(`${DAY}:`))
    .forEach((one) => kept.append('filter', one));
  return kept.toString();
}

/** Documents day by day with the ledger of the same days beside them. */
export function RegistersPage() {
  const { register } = useParams();
  const [search] = useSearchParams();
  if (!register) return <Navigate to={`/billing/registers/${REGISTERS[0][0]}${THIS_MONTH}`} replace />;
  if (!REGISTERS.some(([name]) => name === register)) return <Empty>This page does not exist.</Empty>;
  return (
    <DataList
      key={register}
      name={register}
      top={<BillingTabs />}
      beside={<Months />}
      tabs={
        <nav className="tabs" aria-label="Registers">
          {REGISTERS.map(([name, label]) => (
            <NavLink key={name} to={`/billing/registers/${name}?${daysOf(search)}`} end>
              {label}
            </NavLink>
          ))}
        </nav>
      }
      className={(row) => (row.cells.side === 'REVERSED' ? 'dropped' : '')}
    />
  );
}
