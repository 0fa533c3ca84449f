import { useId, useState } from 'react';
import { decimalMark, readFigure, saidBack } from '../figures';
import { useInvalid } from './fields';

/** The form in which figures are sent. */
const SENT = /^-?\d+(\.\d+)?$/;

/** What was typed and is no figure here: the server must not take it for one by a mark that is not the company's. */
const unread = (text: string) => (SENT.test(text.trim()) ? `“${text}”` : text);

/** A figure in the form in which it is sent, as somebody here would type it; whatever else it is stays as it is. */
const asTyped = (value: string) => (SENT.test(value) ? value.replace('.', decimalMark()) : value);

/**
 * A figure as it is typed, by the company's decimal mark. While it is typed it says how it is read; what is none is left as it
 * stands, marked, and refused by the server.
 */
export function FigureInput({
  id,
  label,
  value,
  placeholder,
  first,
  width,
  className = 'cell-input num',
  disabled,
  inline,
  signed,
  onChange,
  onEnter,
}: {
  id?: string;
  label?: string;
  value: string;
  placeholder?: string;
  /** where a dialog begins */
  first?: boolean;
  width?: number;
  className?: string;
  disabled?: boolean;
  /** stands in a sentence */
  inline?: boolean;
  /** may be less than nothing */
  signed?: boolean;
  onChange: (to: string) => void;
  onEnter?: () => void;
}) {
  const hint = useId();
  const invalid = useInvalid();
  const [typed, setTyped] = useState({ text: asTyped(value), value });
  const [focused, setFocused] = useState(false);
  // changed from elsewhere
  if (typed.value !== value) setTyped({ text: asTyped(value), value });
  const wrong = readFigure(typed.text, signed) === null;
  const said = saidBack(typed.text, signed);
  return (
    <span className={`figure-input${inline ? ' inline' : ''}`} style={{ width }}>
      <input
        id={id}
        className={className}
        data-autofocus={first || undefined}
        aria-label={label}
        aria-invalid={wrong || invalid}
        aria-describedby={said ? hint : undefined}
        inputMode="decimal"
        autoComplete="off"
        placeholder={placeholder}
        disabled={disabled}
        value={typed.text}
        onFocus={(event) => {
          setFocused(true);
          event.target.select();
        }}
        onBlur={() => setFocused(false)}
        onKeyDown={(event) => event.key === 'Enter' && !event.ctrlKey && onEnter?.()}
        onChange={(event) => {
          const text = event.target.value;
          const to = readFigure(text, signed) ?? unread(text);
          setTyped({ text, value: to });
          onChange(to);
        }}
      />
      {said && (focused || wrong) && (
        <span className={`said-back${wrong ? ' wrong' : ''}`} id={hint} role="status">
          {said}
        </span>
      )}
    </span>
  );
}
