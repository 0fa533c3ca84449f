import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { answer, client, type Schemas } from '../api/http';
import { keyOf } from '../api/keyOf';
import { pages } from '../api/pages';

export type ListView = Schemas['ListView'];
export type Column = Schemas['ColumnView'];
export type Row = Schemas['ListRow'];
export type ShippedView = Schemas['ShippedView'];
export type FilterView = Schemas['FilterView'];

/** What a column is called in a sentence. */
export const wordsOf = (columns: Column[], name: string) =>
  columns.find((column) => column.name === name)?.words ?? name;

/** Whether a list tells what stood at the end of a day. */
export const isOfDay = (list: ListView) =>
  list.columns.some((column) => column.name === list.day && column.kind === 'AS_OF');

/** What is asked of a list, as it is written in addresses. */
export type Asked = {
  filter: string[];
  /** a column, with a minus before it for the other way round; empty for the list's own */
  sort: string;
  /** in their sequence; empty for those that are shown by themselves */
  columns: string[];
  /** field:measure; empty for rows alone */
  chart: string;
  /** the key of the view that it began with; empty for none */
  view: string;
};

export type SavedView = Schemas['SavedView'];
export type Group = Schemas['GroupView'];

/** The lists that whoever is signed in may read. */
export const listsQuery = queryOptions({
  queryKey: keyOf('lists'),
  queryFn: () => answer(client.GET('/api/lists')),
  staleTime: Infinity,
});

type Rows = Pick<Asked, 'filter' | 'sort' | 'columns'>;

const rowsOf = ({ filter, sort, columns }: Asked): Rows => ({ filter, sort, columns });

const query = ({ filter, sort, columns }: Rows) => ({
  filter,
  sort: sort || undefined,
  columns: columns.length > 0 ? columns : undefined,
});

export const rowsQuery = (list: string, asked: Asked) =>
  infiniteQueryOptions({
    queryKey: keyOf('list-rows', list, rowsOf(asked)),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/lists/{list}/rows', {
          params: { path: { list }, query: { ...query(asked), after: pageParam } },
        }),
      ),
    ...pages,
  });

/** Of many rows no more than that they are many, unless all shall be counted. */
export const totalsQuery = (list: string, asked: Asked, whole = false) =>
  queryOptions({
    queryKey: keyOf('list-rows', list, 'totals', asked.filter, asked.columns, whole),
    queryFn: () =>
      answer(
        client.GET('/api/lists/{list}/totals', {
          params: { path: { list }, query: { filter: asked.filter, columns: query(asked).columns, capped: !whole } },
        }),
      ),
  });

export const groupsQuery = (list: string, { filter, chart }: Asked) =>
  queryOptions({
    queryKey: keyOf('list-rows', list, 'groups', filter, chart),
    queryFn: () =>
      answer(client.GET('/api/lists/{list}/groups', { params: { path: { list }, query: { filter, chart } } })),
  });

export const viewsQuery = (list: string) =>
  queryOptions({
    queryKey: keyOf('list-views', list),
    queryFn: () => answer(client.GET('/api/lists/{list}/views', { params: { path: { list } } })),
  });

export const offered = (list: string, column: string, q: string) =>
  answer(client.GET('/api/lists/{list}/offered', { params: { path: { list }, query: { column, q } } }));

/** An address holds so many keys. */
export const MOST_SUMMED = 500;

/** @param filter the day that everything is told as of; empty for today */
export const selectedQuery = (list: string, keys: string[], columns: string[], filter: string[]) =>
  queryOptions({
    queryKey: keyOf('list-rows', list, 'selected', keys, columns, filter),
    queryFn: () =>
      answer(
        client.GET('/api/lists/{list}/selected', {
          params: {
            path: { list },
            query: { keys: keys.map(Number), columns: columns.length > 0 ? columns : undefined, filter },
          },
        }),
      ),
    enabled: keys.length > 0 && keys.length <= MOST_SUMMED,
  });

/** Filters that what was typed may mean. */
export const found = (list: string, q: string) =>
  answer(client.GET('/api/lists/{list}/found', { params: { path: { list }, query: { q } } }));

/** Where the same rows are a file. */
export function fileOf(list: string, asked: Asked, format: 'CSV' | 'XLSX' | 'PDF', marked = false): string {
  const said = new URLSearchParams({ format });
  if (marked) said.set('marked', 'true');
  asked.filter.forEach((one) => said.append('filter', one));
  if (asked.sort) said.set('sort', asked.sort);
  if (asked.columns.length > 0) said.set('columns', asked.columns.join(','));
  return `/api/lists/${list}/file?${said}`;
}
