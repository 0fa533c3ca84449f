import type { Column } from '../../shared/ui/Table';
import { TextLine } from '../../shared/ui/fields';

type Named = { code: string; words: string };

/** A reason of the company in the table of its rules: its code, which never changes once it is used, and its words. */
export const reasonColumns = <Row extends Named>(
  width: string,
  locked: boolean,
  onChange: (at: number, to: Partial<Named>) => void,
): Column<Row>[] => [
  {
    head: 'Code',
    width,
    cell: (reason, at) => (
      <TextLine
        className="cell-input mono"
        aria-label={`Code of reason ${at + 1}`}
        maxLength={60}
        value={reason.code}
        disabled={locked}
        onChange={(to) => /^[a-z0-9-]*$/.test(to) && onChange(at, { code: to })}
      />
    ),
  },
  {
    head: 'Reason',
    cell: (reason, at) => (
      <TextLine
        className="cell-input"
        aria-label={`Words of reason ${at + 1}`}
        maxLength={120}
        value={reason.words}
        disabled={locked}
        onChange={(to) => onChange(at, { words: to })}
      />
    ),
  },
];

/** Takes a reason out; one stays. */
export const removing = <Row,>(rows: Row[], locked: boolean, onChange: (to: Row[]) => void): Column<Row> => ({
  className: 'nowrap',
  cell: (_, at) =>
    !locked &&
    rows.length > 1 && (
      <button className="plain small" onClick={() => onChange(rows.filter((_, index) => index !== at))}>
        Remove
      </button>
    ),
});
