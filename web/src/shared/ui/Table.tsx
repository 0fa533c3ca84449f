import { type ComponentProps, Fragment, type ReactNode } from 'react';

/** A column of a table. */
export type Column<Row> = {
  /** its heading; none for what needs no name, such as a way to do something */
  head?: ReactNode;
  /** figures stand at the right, one below the other */
  num?: boolean;
  /** of its heading: how wide, and where it stands above what is typed */
  width?: string;
  /** of its cells */
  className?: string | ((row: Row) => string);
  /** how many rows its cell stands beside, from this one on; 0 where one above does */
  beside?: (row: Row) => number;
  /** how many columns it runs across; 0 where one before it does */
  across?: (row: Row) => number;
  /** what its cells do */
  does?: (row: Row) => ComponentProps<'td'>;
  /** none where all rows draw themselves */
  cell?: (row: Row, at: number) => ReactNode;
};

type Told<Row> = Column<Row> | false | '' | null | undefined;

const classes = (...names: (string | false | undefined)[]) => names.filter(Boolean).join(' ') || undefined;

/** The rows of a document, or another short table that is read whole; what is long is a list. */
export function Table<Row>({
  caption,
  of,
  columns,
  keyOf,
  className,
  rowOf,
  drawn,
  heads,
  before,
  after,
  isUnheaded = false,
  look = 'rows',
}: {
  /** what it tells, for whoever does not see it */
  caption: string;
  of: readonly Row[];
  /** those that are empty are not there */
  columns: readonly Told<Row>[];
  keyOf: (row: Row, at: number) => string | number;
  className?: string;
  /** how a row looks and what it does */
  rowOf?: (row: Row, at: number) => ComponentProps<'tr'>;
  /** a row that draws itself, as one that is a sentence across the columns; its cells where it is undefined */
  drawn?: (row: Row, at: number) => ReactNode;
  /** headings of its own, where one stands above several columns */
  heads?: ReactNode;
  /** rows above and below all others, as what is brought forward and what they come to */
  before?: ReactNode;
  after?: ReactNode;
  /** its rows read as sentences, without headings */
  isUnheaded?: boolean;
  /** small, as an entry beside what posts it */
  look?: 'rows' | 'entry';
}) {
  const told = columns.filter((column) => typeof column === 'object' && column !== null);
  return (
    <table className={classes(look, className)}>
      <caption className="unseen">{caption}</caption>
      {!isUnheaded && (
        <thead>
          {heads ?? (
            <tr>
              {told.map(({ head, num, width }, at) =>
                head === undefined ? (
                  <td key={at} className={classes(num && 'num', width)} />
                ) : (
                  <th key={at} className={classes(num && 'num', width)}>
                    {head}
                  </th>
                ),
              )}
            </tr>
          )}
        </thead>
      )}
      <tbody>
        {before}
        {of.map((row, at) => {
          const own = drawn?.(row, at);
          return own === undefined ? (
            <tr key={keyOf(row, at)} {...rowOf?.(row, at)}>
              {told.map(({ num, className, beside, across, does, cell }, column) => {
                const rows = beside?.(row) ?? 1;
                const columns = across?.(row) ?? 1;
                return rows * columns === 0 ? null : (
                  <td
                    key={column}
                    {...does?.(row)}
                    rowSpan={rows > 1 ? rows : undefined}
                    colSpan={columns > 1 ? columns : undefined}
                    className={classes(num && 'num', typeof className === 'function' ? className(row) : className)}
                  >
                    {cell?.(row, at)}
                  </td>
                );
              })}
            </tr>
          ) : (
            <Fragment key={keyOf(row, at)}>{own}</Fragment>
          );
        })}
        {after}
      </tbody>
    </table>
  );
}

/** Takes a line out of what is being entered. */
export function RemoveLine({ at, onRemove }: { at: number; onRemove: () => void }) {
  return (
    <button className="plain" aria-label={`Remove line ${at + 1}`} onClick={onRemove}>
      ×
    </button>
  );
}
