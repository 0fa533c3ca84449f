import { useSearchParams } from 'react-router';
import type { Asked, SavedView, ShippedView } from './api';

/** What an address asks of a list; others may have put parameters of their own beside it. */
export const askedIn = (search: URLSearchParams): Asked => ({
  filter: search.getAll('filter'),
  sort: search.get('sort') ?? '',
  columns: (search.get('columns') ?? '').split(',').filter(Boolean),
  chart: search.get('chart') ?? '',
  view: search.get('view') ?? '',
});

/**
 * The same address asking otherwise. An address that asks for nothing at all opens what somebody sees first; where everything was
 * taken away it says so.
 */
export function asking(search: URLSearchParams, asked: Asked): URLSearchParams {
  const changed = new URLSearchParams(search);
  for (const name of ['filter', 'sort', 'columns', 'chart', 'view']) changed.delete(name);
  asked.filter.forEach((one) => changed.append('filter', one));
  if (asked.sort) changed.set('sort', asked.sort);
  if (asked.columns.length > 0) changed.set('columns', asked.columns.join(','));
  if (asked.chart) changed.set('chart', asked.chart);
  if (asked.view || changed.size === 0) changed.set('view', asked.view);
  return changed;
}

/** All rows, whatever somebody sees first. */
export const ALL = '?view=';

/** The address that a view stands for. */
export const addressOf = ({ key, filter, sort, columns, chart }: SavedView | ShippedView): string =>
  `?${asking(new URLSearchParams(), { filter, sort, columns, chart, view: key })}`;

/** The address holds what is asked: sent as a link, opened in a second tab, or come back to, it shows the same. */
export function useAsked(): [Asked, (changed: Partial<Asked>) => void] {
  const [search, setSearch] = useSearchParams();
  const asked = askedIn(search);
  return [asked, (changed) => setSearch(asking(search, { ...asked, ...changed }))];
}
