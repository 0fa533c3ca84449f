import { useId, useState, type ReactNode } from 'react';
import { useHits } from './useHits';

/** Finds something while one types: arrows choose, Enter or Tab takes, Escape leaves. */
export function LookAhead<T>({
  id: inputId,
  name,
  load,
  shown,
  row,
  keyOf,
  onTake,
  onTakeMany,
  label,
  className,
  autoFocus,
  placeholder,
}: {
  id?: string;
  name: string;
  load: (text: string) => Promise<T[]>;
  shown: string;
  row: (hit: T) => ReactNode;
  keyOf: (hit: T) => string;
  onTake: (hit: T) => void;
  /** where several can be taken at once: Shift and Enter marks them */
  onTakeMany?: (hits: T[]) => void;
  label: string;
  className?: string;
  autoFocus?: boolean;
  placeholder?: string;
}) {
  const [text, setText] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const [marked, setMarked] = useState<T[]>([]);
  const id = useId();
  const open = text !== null && text.trim() !== '';
  const leave = () => {
    setText(null);
    setAt(0);
    setMarked([]);
  };
  const mark = (hit: T | undefined) =>
    hit &&
    setMarked(
      marked.some((one) => keyOf(one) === keyOf(hit))
        ? marked.filter((one) => keyOf(one) !== keyOf(hit))
        : [...marked, hit],
    );
  const take = (hit: T) => {
    if (onTakeMany && marked.length > 0) onTakeMany(marked);
    else onTake(hit);
    leave();
  };
  const { hits, looking, problem, enter } = useHits(`look ${name}`, text ?? '', load, take);
  return (
    <div className="look">
      <input
        id={inputId}
        className={className}
        role="combobox"
        aria-expanded={open}
        aria-controls={id}
        aria-label={label}
        autoComplete="off"
        autoFocus={autoFocus}
        placeholder={placeholder}
        value={text ?? shown}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onBlur={leave}
        onKeyDown={(event) => {
          if (!open) return;
          if (event.key === 'ArrowDown') setAt(Math.min(at + 1, hits.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else if (event.key === 'Enter' && event.shiftKey && onTakeMany) {
            mark(hits[at]);
            setAt(Math.min(at + 1, hits.length - 1));
          } else if (event.key === 'Enter') enter(at);
          else if (event.key === 'Tab') {
            const hit = hits[at];
            if (hit !== undefined) take(hit);
          } else if (event.key === 'Escape') leave();
          else return;
          if (event.key !== 'Tab') event.preventDefault();
        }}
      />
      {open && (
        <div className="look-hits" id={id} role="listbox">
          {hits.map((hit, index) => (
            <div
              key={keyOf(hit)}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              onMouseDown={(event) => {
                event.preventDefault();
                take(hit);
              }}
            >
              {marked.some((one) => keyOf(one) === keyOf(hit)) && <b aria-label="marked">✓</b>}
              {row(hit)}
            </div>
          ))}
          {hits.length === 0 && (
            <div className="muted">{looking ? 'Looking…' : (problem?.message ?? 'Nothing found')}</div>
          )}
        </div>
      )}
    </div>
  );
}
