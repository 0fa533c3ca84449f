import { TextLine } from '../../shared/ui/fields';
type Named = { code: string; words: string };

/** A reason of the company in the table of its rules: its code, which never changes once it is used, and its words. */
export function ReasonCells({
  at,
  reason,
  locked,
  onChange,
}: {
  at: number;
  reason: Named;
  locked: boolean;
  onChange: (to: Partial<Named>) => void;
}) {
  return (
    <>
      <td>
        <TextLine
          className="cell-input mono"
          aria-label={`Code of reason ${at + 1}`}
          maxLength={60}
          value={reason.code}
          disabled={locked}
          onChange={(to) => /^[a-z0-9-]*$/.test(to) && onChange({ code: to })}
        />
      </td>
      <td>
        <TextLine
          className="cell-input"
          aria-label={`Words of reason ${at + 1}`}
          maxLength={120}
          value={reason.words}
          disabled={locked}
          onChange={(to) => onChange({ words: to })}
        />
      </td>
    </>
  );
}
