import { useRef } from 'react';
import { answer, client, type Schemas } from '../shared/api/http';
import { Words } from '../shared/format';
import { useKeys } from '../shared/keys';
import { useGo } from '../shared/navigation';
import { useSession } from '../shared/session';
import { hasOnlyPage, placeOf } from '../shared/ui';
import { LookAhead } from '../shared/ui/LookAhead';

/** What a hit opens; trails are for those who read prices, so the warehouse is led to its notes. */
const target = (hit: Schemas['Hit'], readsTrails: boolean) =>
  hit.kind === 'DISPATCH' && !readsTrails
    ? '/goods/staged'
    : hasOnlyPage(hit.kind)
      ? placeOf(hit.kind, hit.number)
      : `/trail/${hit.kind}/${encodeURIComponent(hit.number)}`;

const load = (q: string) => answer(client.GET('/api/find', { params: { query: { q } } }));

/** Finds any number, PO or name as one types, and goes to its trail. */
export function Find() {
  const { reads } = useSession();
  const input = useRef<HTMLInputElement>(null);
  const navigate = useGo();
  const focus = () => input.current?.focus();
  useKeys({ '/': focus, 'ctrl+k': focus });
  return (
    <div className="find">
      <LookAhead
        name="find"
        label="Find"
        input={input}
        shown=""
        keepsText
        placeholder={reads('SELLING') ? 'Find a number, PO, customer' : 'Find a number or name'}
        none="Nothing starts with that"
        load={load}
        keyOf={(hit) => `${hit.kind} ${hit.number}`}
        row={(hit) => (
          <>
            <span className="muted find-kind">{Words(hit.kind)}</span>
            <span className="mono find-number">{hit.number}</span>
            <span className="grows-1">
              {hit.title} <span className="muted">{hit.detail}</span>
            </span>
          </>
        )}
        onTake={(hit) => {
          input.current?.blur();
          navigate(target(hit, reads('SELLING')));
        }}
        onLeave={() => input.current?.blur()}
      />
      <kbd>/</kbd>
    </div>
  );
}
