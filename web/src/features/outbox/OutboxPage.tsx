import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { moment } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import type { Row } from '../../shared/list/api';
import { Doc, Waiting } from '../../shared/ui';

const placeOf = (row: Row) => `/outbox/${row.key}`;

/** What would have been sent, newest first: this company is not connected to any mail. */
export function OutboxPage() {
  return (
    <DataList
      name="mails"
      place={placeOf}
      cell={(column, row) => {
        if (column === 'subject') return <Link to={placeOf(row)}>{textIn(row, column) || 'Without subject'}</Link>;
        return column === 'number' && row.opens ? <Doc kind={row.kind} number={row.opens} /> : undefined;
      }}
      bar={
        <span className="muted small">
          Messages that would have been sent. Nothing leaves this system; each can be saved as a mail file.
        </span>
      }
    />
  );
}

/** One message, as its recipient would read it. */
export function MessagePage() {
  const { id = '' } = useParams();
  const query = useQuery({
    queryKey: keyOf('outbox', id),
    queryFn: () => answer(client.GET('/api/outbox/{id}', { params: { path: { id: Number(id) } } })),
  });
  const message = query.data;
  if (!message) return <Waiting query={query} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <Link to="/outbox">Outbox</Link>
        <h1 className="breaks">{message.subject || 'Without subject'}</h1>
        <p className="muted">
          To {message.recipient}, from {message.by}, {moment(message.at)}
          {message.aboutKind && message.aboutNumber && (
            <>
              , about <Doc kind={message.aboutKind} number={message.aboutNumber} />
            </>
          )}
        </p>
        <p className="space-pre-wrap up-to-80ch">{message.body}</p>
      </div>
      <div className="bar">
        <a className="button first" href={`/api/outbox/${message.id}/eml`} download={`message-${message.id}.eml`}>
          Save as mail file
        </a>
        {message.attachment && (
          <a className="button" href={`/api/outbox/${message.id}/attachment`} target="_blank" rel="noreferrer">
            {message.attachment}
          </a>
        )}
      </div>
    </div>
  );
}
