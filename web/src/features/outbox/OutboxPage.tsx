import { infiniteQueryOptions, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { moment } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { onRow } from '../../shared/rows';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, Waiting } from '../../shared/ui';

const outboxQuery = (recipient: string | undefined) =>
  infiniteQueryOptions({
    queryKey: keyOf('outbox', recipient),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/outbox', { params: { query: { recipient, after: pageParam } } })),
    ...pages,
  });

/** What would have been sent, newest first: this company is not connected to any mail. */
export function OutboxPage() {
  const { username } = useSession();
  const [search, setSearch] = useSearchParams();
  const mine = search.get('to') === 'me';
  const list = useInfiniteQuery(outboxQuery(mine ? username : undefined));
  const [shown, setShown] = useState<number | null>(null);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at] = useCursor(rows, (row) => setShown(shown === row.id ? null : row.id));
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Outbox</h1>
          <label className="nowrap">
            <input
              type="checkbox"
              checked={mine}
              onChange={(event) => setSearch(event.target.checked ? { to: 'me' } : {}, { replace: true })}
            />{' '}
            only to me
          </label>
        </div>
        <p className="muted">
          Messages that would have been sent. Nothing leaves this system; each message can be saved as a mail file.
        </p>
        <table className="rows">
          <caption className="unseen">Outbox</caption>
          <thead>
            <tr>
              <th>Written</th>
              <th>To</th>
              <th>Subject</th>
              <th>About</th>
              <th>By</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr
                key={row.id}
                className={`clickable${index === at ? ' at' : ''}`}
                onClick={onRow(() => setShown(shown === row.id ? null : row.id))}
              >
                <td className="nowrap">{moment(row.at)}</td>
                <td>{row.recipient}</td>
                <td className="breaks">
                  {row.subject}
                  {shown === row.id && (
                    <div
                      style={{
                        whiteSpace: 'pre-wrap',
                        marginTop: 6,
                        borderLeft: '2px solid var(--sea)',
                        paddingLeft: 10,
                      }}
                    >
                      {row.body}
                    </div>
                  )}
                </td>
                <td className="nowrap" onClick={(event) => event.stopPropagation()}>
                  {row.aboutKind && row.aboutNumber && <Doc kind={row.aboutKind} number={row.aboutNumber} />}
                </td>
                <td>{row.by}</td>
                <td>
                  <a
                    href={`/api/outbox/${row.id}/eml`}
                    download={`message-${row.id}.eml`}
                    onClick={(event) => event.stopPropagation()}
                  >
                    .eml
                  </a>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>{mine ? 'No messages for you.' : 'No messages yet.'}</Empty>}
        <More query={list} />
      </div>
    </div>
  );
}
