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
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <select id={id} value={value} onChange={(event) => onChange(event.target.value)}>
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
      </select>
    </div>
  );
}
