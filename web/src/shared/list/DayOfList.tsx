import { Choice } from '../ui/fields';
import { useAsked } from './address';
import { isOfDay, type ListView } from './api';
import { useMonths } from './months';

/** Whether a filter goes where another is put: the same, or another day that everything is told as of. */
export const givesWay = (list: ListView, filter: string, written: string): boolean =>
  filter === written || (isOfDay(list) && [filter, written].every((one) => one.startsWith(`${list.day}:`)));

/** The days of a register, all of a month or whatever else is filtered; or at the end of which day things are told. */
export function DayOfList({ list }: { list: ListView }) {
  const [asked, ask] = useAsked();
  const [thisMonth, ...before] = useMonths();
  if (!list.day || !thisMonth) return null;
  const ofDay = isOfDay(list);
  const start = `${list.day}:${ofDay ? 'at' : 'in'}:`;
  const said = asked.filter.find((one) => one.startsWith(start))?.slice(start.length) ?? '';
  const named: [string, string][] = ofDay
    ? [['', 'today'], ['yesterday', 'yesterday'], ['last-month', 'the end of last month'], ...endsOf(before)]
    : [['', 'other days'], ['this-month', 'this month'], ['last-month', 'last month'], thisMonth, ...before];
  const isNamed = named.some(([value]) => value === said);
  const another: [string, string][] = ofDay && !isNamed ? [[said, 'another day']] : [];
  return (
    <Choice
      label={ofDay ? 'As of' : 'Month'}
      className="cell-input wide-180"
      of={[...another, ...named]}
      value={ofDay || isNamed ? said : ''}
      onChange={(to) =>
        ask({
          filter: [...(to ? [start + to] : []), ...asked.filter.filter((one) => !one.startsWith(`${list.day}:`))],
        })
      }
    />
  );
}

const endsOf = (months: [string, string][]): [string, string][] =>
  months.map(([written, words]) => [written, `the end of ${words}`]);
