import type { ReactNode } from 'react';

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
  cell: (row: Row, at: number) => ReactNode;
};

const classes = (...names: (string | false | undefined)[]) => names.filter(Boolean).join(' ') || undefined;

/** The rows of a document, or another short table that is read whole; what is long is a list. */
export function Table<Row>({
  caption,
  of,
  columns,
  keyOf,
  className,
  rowClass,
  isUnheaded = false,
}: {
  /** what it tells, for whoever does not see it */
  caption: string;
  of: readonly Row[];
  /** those that are false are not there */
  columns: readonly (Column<Row> | false)[];
  keyOf: (row: Row, at: number) => string | number;
  className?: string;
  rowClass?: (row: Row) => string | undefined;
  /** its rows read as sentences, without headings */
  isUnheaded?: boolean;
}) {
  const told = columns.filter((column) => column !== false);
  return (
    <table className={classes('rows', className)}>
      <caption className="unseen">{caption}</caption>
      {!isUnheaded && (
        <thead>
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
        </thead>
      )}
      <tbody>
        {of.map((row, at) => (
          <tr key={keyOf(row, at)} className={rowClass?.(row)}>
            {told.map(({ num, className, cell }, column) => (
              <td
                key={column}
                className={classes(num && 'num', typeof className === 'function' ? className(row) : className)}
              >
                {cell(row, at)}
              </td>
            ))}
          </tr>
        ))}
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
