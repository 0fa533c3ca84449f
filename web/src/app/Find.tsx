import { useRef, useState } from 'react';
import { answer, client, type Schemas } from '../shared/api/http';
import { Words } from '../shared/format';
import { useKeys } from '../shared/keys';
import { useGo } from '../shared/navigation';
import { reads, useSession } from '../shared/session';
import { hasOnlyPage, placeOf } from '../shared/ui';
import { useHits } from '../shared/ui/useHits';

/** What a hit opens; trails are for those who read prices, so the warehouse is led to its notes. */
const target = (hit: Schemas['Hit'], role: string) =>
  hit.kind === 'DISPATCH' && !reads(role, 'selling')
    ? '/goods/staged'
    : hasOnlyPage(hit.kind)
      ? placeOf(hit.kind, hit.number)
      : `/trail/${hit.kind}/${encodeURIComponent(hit.number)}`;

const load = (q: string) => answer(client.GET('/api/find', { params: { query: { q } } }));

/** Finds any number, PO or name as one types, and goes to its trail. */
export function Find() {
  const { role } = useSession();
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useGo();
  const typed = text.trim();
  const focus = () => input.current?.focus();
  useKeys({ '/': focus, 'ctrl+k': focus });
  const go = (hit: Schemas['Hit']) => {
    setOpen(false);
    setText('');
    input.current?.blur();
    navigate(target(hit, role));
  };
  const { hits, looking, problem, enter } = useHits('find', text, load, go);
  return (
    <div className="find">
      <input
        ref={input}
        role="combobox"
        aria-label="Find"
        aria-expanded={open && typed !== ''}
        aria-controls="find-hits"
        placeholder={reads(role, 'selling') ? 'Find a number, PO, customer' : 'Find a number or name'}
        value={text}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setOpen(true);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(at + 1, hits.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else if (event.key === 'Enter') enter(at);
          else if (event.key === 'Escape') input.current?.blur();
          else return;
          event.preventDefault();
        }}
      />
      <kbd>/</kbd>
      {open && typed !== '' && (
        <div className="find-hits" id="find-hits" role="listbox">
          {hits.map((hit, index) => (
            <div
              key={hit.kind + hit.number}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              onMouseDown={(event) => {
                event.preventDefault();
                go(hit);
              }}
            >
              <span className="muted">{Words(hit.kind)}</span>
              <span className="mono">{hit.number}</span>
              <span>
                {hit.title} <span className="muted">{hit.detail}</span>
              </span>
            </div>
          ))}
          {hits.length === 0 && (
            <div style={{ padding: 10 }} className="muted">
              {looking ? 'Searching…' : (problem?.message ?? 'Nothing starts with that')}
            </div>
          )}
        </div>
      )}
    </div>
  );
}
