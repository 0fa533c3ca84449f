import { useSearchParams } from 'react-router';
import type { Asked } from './api';

/** What an address asks of a list; others may have put parameters of their own beside it. */
export const askedIn = (search: URLSearchParams): Asked => ({
  filter: search.getAll('filter'),
  sort: search.get('sort') ?? '',
  columns: (search.get('columns') ?? '').split(',').filter(Boolean),
});

/** The same address asking otherwise. */
export function asking(search: URLSearchParams, asked: Asked): URLSearchParams {
  const changed = new URLSearchParams(search);
  for (const name of ['filter', 'sort', 'columns']) changed.delete(name);
  asked.filter.forEach((one) => changed.append('filter', one));
  if (asked.sort) changed.set('sort', asked.sort);
  if (asked.columns.length > 0) changed.set('columns', asked.columns.join(','));
  return changed;
}

/** The address holds what is asked: sent as a link, opened in a second tab, or come back to, it shows the same. */
export function useAsked(): [Asked, (changed: Partial<Asked>) => void] {
  const [search, setSearch] = useSearchParams();
  const asked = askedIn(search);
  return [asked, (changed) => setSearch(asking(search, { ...asked, ...changed }))];
}
