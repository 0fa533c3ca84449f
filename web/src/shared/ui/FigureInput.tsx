/** A figure as it is typed: digits and one decimal mark, a comma taken for a point. */
export function FigureInput({
  id,
  label,
  value,
  placeholder,
  first,
  onChange,
  onEnter,
}: {
  id?: string;
  label: string;
  value: string;
  placeholder?: string;
  /** where a dialog begins */
  first?: boolean;
  onChange: (to: string) => void;
  onEnter?: () => void;
}) {
  return (
    <input
      id={id}
      className="cell-input num"
      data-autofocus={first || undefined}
      aria-label={label}
      inputMode="decimal"
      autoComplete="off"
      placeholder={placeholder}
      value={value}
      onFocus={(event) => event.target.select()}
      onKeyDown={(event) => event.key === 'Enter' && !event.ctrlKey && onEnter?.()}
      onChange={(event) => {
        const text = event.target.value.replace(',', '.');
        if (/^\d*\.?\d*$/.test(text)) onChange(text);
      }}
    />
  );
}
