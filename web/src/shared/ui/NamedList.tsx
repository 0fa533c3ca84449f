import { useInfiniteQuery, type InfiniteData, type UseInfiniteQueryOptions } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Problem } from '../api/http';
import type { Subject } from '../api/keyOf';
import { useCursor } from '../keys';
import { useGo } from '../navigation';
import { onRow } from '../rows';
import { Empty, More, SearchLine, Waiting } from './index';

type Named = { code: string; name: string };
type Page<T> = { rows: T[]; next: string | null };

/** A page that lists what has a name and a code, found by words; a row opens its own page. */
export function NamedList<T extends Named>({
  title,
  place,
  search,
  load,
  none,
  head,
  cells,
}: {
  title: string;
  /** where the page of one stands, before its code */
  place: string;
  search: string;
  load: (
    q: string,
  ) => UseInfiniteQueryOptions<Page<T>, Problem, InfiniteData<Page<T>>, readonly [Subject, string], string | undefined>;
  none: { found: string; there: string };
  head: ReactNode;
  cells: (row: T) => ReactNode;
}) {
  const [asked, ask] = useSearchParams();
  const q = asked.get('q') ?? '';
  const list = useInfiniteQuery({ ...load(q), placeholderData: (before) => before });
  const navigate = useGo();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const placeOf = (row: T) => `${place}/${encodeURIComponent(row.code)}`;
  const [at] = useCursor(rows, (row) => navigate(placeOf(row)));
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{title}</h1>
          <SearchLine label={search} value={q} onChange={(to) => ask(to ? { q: to } : {}, { replace: true })} />
        </div>
        <table className="rows">
          <caption className="unseen">{title}</caption>
          <thead>
            <tr>{head}</tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr
                key={row.code}
                className={`clickable${index === at ? ' at' : ''}`}
                onClick={onRow(() => navigate(placeOf(row)))}
              >
                <td className="breaks">
                  <Link to={placeOf(row)}>{row.name}</Link>
                </td>
                {cells(row)}
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>{q ? none.found : none.there}</Empty>}
        <More query={list} />
      </div>
    </div>
  );
}
