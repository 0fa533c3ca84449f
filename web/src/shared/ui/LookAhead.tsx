import { Combobox, useCombobox } from '@mantine/core';
import { useId, useState, type ReactNode, type Ref } from 'react';
import { useHits } from './useHits';

/** Finds something while one types: arrows choose, Enter or Tab takes, Escape leaves. */
export function LookAhead<T>({
  id: inputId,
  input,
  name,
  load,
  shown,
  keepsText,
  row,
  keyOf,
  none = 'Nothing found',
  onTake,
  onTakeMany,
  onLeave,
  label,
  className,
  autoFocus,
  placeholder,
}: {
  id?: string;
  input?: Ref<HTMLInputElement>;
  name: string;
  load: (text: string) => Promise<T[]>;
  shown: string;
  /** what was typed stays there for whoever comes back to it */
  keepsText?: boolean;
  row: (hit: T) => ReactNode;
  keyOf: (hit: T) => string;
  none?: string;
  onTake: (hit: T) => void;
  /** where several can be taken at once: Shift and Enter marks them */
  onTakeMany?: (hits: T[]) => void;
  /** Escape was pressed */
  onLeave?: () => void;
  label: string;
  className?: string;
  autoFocus?: boolean;
  placeholder?: string;
}) {
  const [text, setText] = useState<string | null>(null);
  const [here, setHere] = useState(false);
  const [at, setAt] = useState(0);
  const [marked, setMarked] = useState<T[]>([]);
  const id = useId();
  const open = here && text !== null && text.trim() !== '';
  const box = useCombobox({ opened: open });
  const clear = () => {
    setText(null);
    setAt(0);
    setMarked([]);
  };
  const isMarked = (hit: T) => marked.some((one) => keyOf(one) === keyOf(hit));
  const mark = (hit: T | undefined) =>
    hit && setMarked(isMarked(hit) ? marked.filter((one) => keyOf(one) !== keyOf(hit)) : [...marked, hit]);
  const take = (hit: T) => {
    if (onTakeMany && marked.length > 0) onTakeMany(marked);
    else onTake(hit);
    clear();
  };
  const { hits, looking, problem, enter } = useHits(name, text ?? '', load, take);
  const optionId = (index: number) => `${id}-${index}`;
  return (
    <Combobox
      store={box}
      position="bottom-start"
      width="max-content"
      keepMounted={false}
      offset={1}
      classNames={{ dropdown: 'look-hits', option: 'look-hit' }}
      onOptionSubmit={(key) => {
        const hit = hits.find((one) => keyOf(one) === key);
        if (hit !== undefined) take(hit);
      }}
    >
      <Combobox.Target withKeyboardNavigation={false} withAriaAttributes={false}>
        <input
          id={inputId}
          ref={input}
          className={className}
          role="combobox"
          aria-haspopup="listbox"
          aria-expanded={open}
          aria-controls={open ? id : undefined}
          aria-activedescendant={open && hits.length > 0 ? optionId(at) : undefined}
          aria-label={label}
          autoComplete="off"
          autoFocus={autoFocus}
          placeholder={placeholder}
          value={text ?? shown}
          onFocus={(event) => {
            setHere(true);
            event.target.select();
          }}
          onChange={(event) => {
            setHere(true);
            setText(event.target.value);
            setAt(0);
          }}
          onBlur={() => {
            setHere(false);
            if (!keepsText) clear();
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && onLeave) onLeave();
            else if (!open) return;
            else if (event.key === 'ArrowDown') setAt(Math.min(at + 1, hits.length - 1));
            else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
            else if (event.key === 'Enter' && event.shiftKey && onTakeMany) {
              mark(hits[at]);
              setAt(Math.min(at + 1, hits.length - 1));
            } else if (event.key === 'Enter') enter(at);
            else if (event.key === 'Tab' && !keepsText) {
              const hit = hits[at];
              if (hit !== undefined) take(hit);
            } else if (event.key === 'Escape') clear();
            else return;
            if (event.key !== 'Tab') event.preventDefault();
          }}
        />
      </Combobox.Target>
      <Combobox.Dropdown>
        <Combobox.Options id={id} aria-label="Matches">
          {hits.map((hit, index) => (
            <Combobox.Option
              key={keyOf(hit)}
              id={optionId(index)}
              value={keyOf(hit)}
              selected={index === at}
              aria-selected={index === at}
            >
              {isMarked(hit) && <b aria-label="marked">✓</b>}
              {row(hit)}
            </Combobox.Option>
          ))}
        </Combobox.Options>
        {hits.length === 0 && <Combobox.Empty>{looking ? 'Looking…' : (problem?.message ?? none)}</Combobox.Empty>}
      </Combobox.Dropdown>
    </Combobox>
  );
}
