/** A password, never shown; what is asked of it stands below where somebody chooses one. */
export function PasswordField({
  id,
  label = 'Password',
  value,
  first,
  chosen,
  hint,
  onChange,
}: {
  id: string;
  label?: string;
  value: string;
  /** where a dialog begins */
  first?: boolean;
  /** it is a new one, and not the one that there is */
  chosen?: boolean;
  hint?: string;
  onChange: (to: string) => void;
}) {
  return (
    <div className="field below-12">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type="password"
        data-autofocus={first ?? undefined}
        autoComplete={chosen ? 'new-password' : 'current-password'}
        maxLength={200}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      {hint && <span className="muted small">{hint}</span>}
    </div>
  );
}
