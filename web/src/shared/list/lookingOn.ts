import { useEffect, useState } from 'react';
import type { Asked } from './api';

/** So many answers are asked for by itself, each of which looks at a part; then whoever waits decides. */
const ANSWERS = 16;

/** So many rows are enough to read meanwhile. */
const ENOUGH = 50;

type Page = { rows: unknown[]; looked?: number | null };

/** Pages of rows that come in parts where nothing leads to them. */
type Query = {
  data?: { pages: Page[] };
  isPlaceholderData: boolean;
  isFetchingNextPage: boolean;
  isFetchNextPageError: boolean;
  fetchNextPage: () => Promise<unknown>;
};

/**
 * Where an answer has looked at as many rows as it may, and has not found enough, the next is asked for, some times.
 *
 * @returns how many rows were looked at, where that is not all of them: 0 where it is; whether the next is asked for by
 *   itself; and what asks for more
 */
export function useLookingOn({ filter, sort }: Asked, query: Query) {
  const question = JSON.stringify([filter, sort]);
  const [begun, setBegun] = useState({ question, pages: 0, rows: 0 });
  const from = begun.question === question ? begun : { pages: 0, rows: 0 };
  const pages = query.data?.pages ?? [];
  const rows = pages.reduce((all, page) => all + page.rows.length, 0);
  const isPart = !!pages.at(-1)?.looked;
  const goesOn =
    isPart &&
    !query.isPlaceholderData &&
    !query.isFetchNextPageError &&
    pages.length - from.pages < ANSWERS &&
    rows - from.rows < ENOUGH;
  const { isFetchingNextPage, fetchNextPage } = query;
  useEffect(() => {
    if (goesOn && !isFetchingNextPage) void fetchNextPage();
  }, [goesOn, isFetchingNextPage, fetchNextPage, pages.length]);
  return {
    looked: isPart ? pages.reduce((all, page) => all + (page.looked ?? 0), 0) : 0,
    goesOn,
    lookOn: () => {
      setBegun({ question, pages: pages.length, rows });
      void fetchNextPage();
    },
  };
}
