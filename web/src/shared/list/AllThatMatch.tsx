import { useState } from 'react';
import type { Row } from './api';

/** Pages of rows, and the way to the next. */
export type Pages = {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => Promise<{ hasNextPage: boolean; data?: { pages: { rows: Row[] }[] } }>;
};

/** So many rows are selected at once at most, also of those that were not shown yet. */
const MOST_SELECTED = 10_000;

/** Offered once all that is shown is selected: the rows of all pages. */
export function AllThatMatch({
  many,
  shown,
  more,
  onAll,
}: {
  many: string;
  shown: number;
  more: Pages;
  onAll: (rows: Row[]) => void;
}) {
  const [reads, setReads] = useState(false);
  const all = async () => {
    setReads(true);
    let rows: Row[] = [];
    for (let goesOn = true; goesOn && rows.length < MOST_SELECTED;) {
      const read = await more.fetchNextPage();
      rows = read.data?.pages.flatMap((page) => page.rows) ?? [];
      goesOn = read.hasNextPage;
    }
    setReads(false);
    onAll(rows);
  };
  return (
    <p className="muted">
      All {shown} {many} that are shown are selected.{' '}
      <button type="button" className="plain" disabled={reads} onClick={() => void all()}>
        {reads ? 'Reading…' : 'Select all that match'}
      </button>
    </p>
  );
}
