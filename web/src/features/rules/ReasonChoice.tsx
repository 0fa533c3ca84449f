import { Choice, Field } from '../../shared/ui/fields';
/** A reason of the company's, to be chosen; nothing is chosen beforehand. */
export function ReasonChoice({
  id,
  label,
  value,
  of,
  onChange,
}: {
  id: string;
  label: string;
  value: string;
  of: { code: string; words: string }[];
  onChange: (to: string) => void;
}) {
  return (
    <Field of={id} label={label}>
      <Choice id={id} value={value} onChange={onChange}>
        {value === '' && (
          <option value="" disabled>
            choose a reason
          </option>
        )}
        {of.map((one) => (
          <option key={one.code} value={one.code}>
            {one.words}
          </option>
        ))}
      </Choice>
    </Field>
  );
}
