import type { ReactNode } from 'react';
import { Field, TextLine } from './fields';

/** A password, never shown; what is asked of it stands below where somebody chooses one. */
export function PasswordField({
  id,
  label = 'Password',
  value,
  first,
  chosen,
  hint,
  error,
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
  error?: ReactNode;
  onChange: (to: string) => void;
}) {
  return (
    <Field of={id} label={label} className="below-12" error={error}>
      <TextLine
        id={id}
        type="password"
        data-autofocus={first ?? undefined}
        autoComplete={chosen ? 'new-password' : 'current-password'}
        maxLength={200}
        value={value}
        onChange={onChange}
      />
      {hint && <span className="muted small">{hint}</span>}
    </Field>
  );
}
