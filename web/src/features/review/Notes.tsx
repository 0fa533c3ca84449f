import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { usersQuery } from '../../shared/api/users';
import { capital, shortDate, Words } from '../../shared/format';
import { ProblemNote, tell } from '../../shared/ui';
import { TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { useNote, type Sheet } from './api';

/** What happened to an order, and a line to write a note into. */
export function HistoryList({ sheet }: { sheet: Sheet }) {
  return (
    <section>
      <h2>History</h2>
      {sheet.history.map((line, index) => (
        <div className="pair spread-flex-start" key={index}>
          <span className="muted nowrap grows-0-0-52px">{shortDate(line.on)}</span>
          <span className="breaks">
            {line.kind === 'ORDER'
              ? capital(line.sentence)
              : `${Words(line.kind)} ${line.number} ${line.sentence === line.number ? '' : line.sentence}`}{' '}
            <span className="muted">by {line.by}</span>
          </span>
        </div>
      ))}
      <NoteLine sheet={sheet} />
    </section>
  );
}

/** A note; @ names a colleague, who is told through the Outbox. */
function NoteLine({ sheet }: { sheet: Sheet }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  useUnsaved(text.trim() !== '');
  const input = useRef<HTMLInputElement>(null);
  const users = useQuery(usersQuery).data ?? [];
  const note = useNote(sheet);
  const begun = /(?:^|\s)@([\w.-]*)$/.exec(text)?.[1];
  const hits =
    begun === undefined
      ? []
      : users.filter((user) => `${user.username} ${user.displayName}`.toLowerCase().includes(begun.toLowerCase()));
  const take = (username: string) => {
    setText(text.replace(/@[\w.-]*$/, `@${username} `));
    input.current?.focus();
  };
  const send = () =>
    text.trim() &&
    !note.isPending &&
    note.mutate(text.trim(), {
      onSuccess: ({ told }) => {
        setText('');
        if (told.length > 0) tell(`${told.join(' and ')} will be notified.`);
      },
    });
  return (
    <div className="look above-8">
      <TextLine
        ref={input}
        className="cell-input"
        aria-label="Note"
        placeholder="Note; @name notifies a colleague"
        maxLength={2000}
        value={text}
        onChange={(to) => {
          setText(to);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' && hits.length > 0) setAt(Math.min(at + 1, hits.length - 1));
          else if (event.key === 'ArrowUp' && hits.length > 0) setAt(Math.max(at - 1, 0));
          else if ((event.key === 'Enter' || event.key === 'Tab') && hits[at]) take(hits[at].username);
          else if (event.key === 'Enter') send();
          else if (event.key === 'Escape') input.current?.blur();
          else return;
          event.preventDefault();
        }}
      />
      {hits.length > 0 && (
        <div className="look-hits at-least-240" role="listbox">
          {hits.map((user, index) => (
            <div
              key={user.username}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              onMouseDown={(event) => {
                event.preventDefault();
                take(user.username);
              }}
            >
              <span className="mono">{user.username}</span>
              <span>{user.displayName}</span>
            </div>
          ))}
        </div>
      )}
      <ProblemNote problem={note.error} />
    </div>
  );
}
