import type { Schemas } from '../../shared/api/http';

type Row = Schemas['RowView'];

const LANE: Record<string, number> = {
  ORDER: 0,
  CANCELLATION: 0,
  DISPATCH: 1,
  RETURN: 1,
  INVOICE: 2,
  CREDIT_NOTE: 2,
  PAYMENT: 3,
  DEPOSIT: 3,
  REFUND: 3,
  WRITE_OFF: 3,
};
const COLOUR = ['var(--sea)', 'var(--ochre)', 'var(--moss)', 'var(--madder)'];
const colour = (lane: number) => COLOUR[lane] ?? 'var(--ink)';
const HEIGHT = 31;
/** What runs on below a row is drawn as long as no row is tall, and the cell cuts it off. */
const ON = 400;
const x = (lane: number) => 14 + lane * 22;

const key = (document: Schemas['TrailDocumentView']) => document.kind + document.number;

/** A thread from the row of a parent to the row of what came from it. */
type Thread = { from: number; to: number; fromLane: number; lane: number; dropped: boolean };

/** The threads between rows; each begins at the parent's row and ends at the child's. */
export function threads(rows: Row[]): Thread[] {
  const at = new Map<string, number>();
  const found: Thread[] = [];
  rows.forEach((row, index) => {
    for (const parent of row.parents) {
      const from = at.get(key(parent));
      if (from !== undefined) {
        found.push({
          from,
          to: index,
          fromLane: LANE[parent.kind] ?? 0,
          lane: LANE[row.document.kind] ?? 0,
          dropped: row.dropped,
        });
      }
    }
    if (row.aspect !== 'DECISION' && !at.has(key(row.document))) at.set(key(row.document), index);
  });
  return found;
}

/** The rows of each document that was taken back, and of its taking back. */
function pairs(rows: Row[]): [number, number][] {
  return rows.flatMap((row, to): [number, number][] => {
    const from = row.undoes ? rows.findIndex((one) => !one.undoes && key(one.document) === key(row.document)) : -1;
    return from < 0 ? [] : [[from, to]];
  });
}

/** The cell of the rail beside one row: threads that pass, bend in or begin, and the row's own knot. */
export function Rail({ rows, row, at }: { rows: Row[]; row: Row; at: number }) {
  const lane = LANE[row.document.kind] ?? 0;
  const middle = HEIGHT / 2;
  return (
    <svg width={92} height={HEIGHT} aria-hidden="true">
      {threads(rows).map((thread, index) => {
        const stroke = COLOUR[thread.lane];
        const dash = thread.dropped ? '2 3' : undefined;
        // a thread runs down the lane it ends in and leaves its parent in the row below it
        if (at === thread.from && thread.to > at)
          return (
            <path
              key={index}
              d={`M ${x(thread.fromLane)} ${middle} V ${ON}`}
              stroke={COLOUR[thread.fromLane]}
              fill="none"
              strokeWidth={1.5}
              strokeDasharray={dash}
            />
          );
        if (at > thread.from && at < thread.to)
          return (
            <path
              key={index}
              d={`M ${x(thread.fromLane)} 0 V ${ON}`}
              stroke={COLOUR[thread.fromLane]}
              fill="none"
              strokeWidth={1.5}
              strokeDasharray={dash}
            />
          );
        if (at === thread.to) {
          return (
            <path
              key={index}
              d={`M ${x(thread.fromLane)} 0 C ${x(thread.fromLane)} ${middle} ${x(thread.lane)} 0 ${x(thread.lane)} ${middle}`}
              stroke={stroke}
              fill="none"
              strokeWidth={1.5}
              strokeDasharray={dash}
            />
          );
        }
        return null;
      })}
      {pairs(rows).map(([from, to], index) => {
        // a square bracket holds a document and its reversal together
        if (at < from || at > to) return null;
        const d =
          at === from ? `M 90 ${middle} H 85 V ${ON}` : at === to ? `M 90 ${middle} H 85 V 0` : `M 85 0 V ${ON}`;
        return <path key={`pair${index}`} d={d} stroke="var(--muted)" fill="none" strokeWidth={1} />;
      })}
      {row.aspect !== 'DECISION' && (
        <circle
          cx={x(lane)}
          cy={middle}
          r={4.5}
          fill={row.dropped ? 'var(--sheet)' : row.parents.length === 0 ? colour(lane) : 'var(--sheet)'}
          stroke={row.dropped ? 'var(--muted)' : colour(lane)}
          strokeWidth={2}
          strokeDasharray={row.dropped ? '2 2' : undefined}
        />
      )}
    </svg>
  );
}
