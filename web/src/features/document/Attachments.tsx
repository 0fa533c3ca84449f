import { useMutation, useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { answer, client, once, upload } from '../../shared/api/http';
import { queries } from '../../shared/api/queries';
import { date } from '../../shared/format';
import { useSession } from '../../shared/session';
import { ProblemNote } from '../../shared/ui';
import { attachmentsQuery, type Owner } from './api';

/** Files kept with an order, a return, unexpected goods or a write-off: submitted here, saved from here, never shown. */
export function Attachments({ owner, number }: { owner: Owner; number: string }) {
  const { may } = useSession();
  const input = useRef<HTMLInputElement>(null);
  const { data } = useQuery(attachmentsQuery(owner, number));
  const keep = {
    onSuccess: (list: NonNullable<typeof data>) => queries.setQueryData(attachmentsQuery(owner, number).queryKey, list),
  };
  const attach = useMutation({
    mutationFn: (file: File) =>
      answer(
        client.POST('/api/{owner}/{number}/attachments', {
          params: { path: { owner, number } },
          ...upload(file),
          ...once(),
        }),
      ),
    ...keep,
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      answer(
        client.DELETE('/api/{owner}/{number}/attachments/{id}', { params: { path: { owner, number, id } }, ...once() }),
      ),
    ...keep,
  });
  const enter = may('PROPOSE');
  const rows = data?.attachments ?? [];
  return (
    <section className="below-20">
      <h2>Files</h2>
      {rows.length === 0 && <div className="muted">None.</div>}
      {rows.map((row) => (
        <div className="pair" key={row.id}>
          <a
            href={`/api/${owner}/${number}/attachments/${row.id}`}
            className="breaks"
            title={`${row.by}, ${date(row.at)}`}
          >
            {row.name}
          </a>
          {enter && (
            <button
              className="plain small"
              aria-label={`Take off ${row.name}`}
              disabled={remove.isPending}
              onClick={() => remove.mutate(row.id)}
            >
              ×
            </button>
          )}
        </div>
      ))}
      {enter && (
        <>
          <input
            ref={input}
            type="file"
            hidden
            aria-label="File"
            accept=".pdf,.png,.jpg,.jpeg,.txt,.csv,.eml"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file) attach.mutate(file);
            }}
          />
          <button className="plain small" disabled={attach.isPending} onClick={() => input.current?.click()}>
            {attach.isPending ? 'Saving…' : 'Attach a file'}
          </button>
        </>
      )}
      <ProblemNote problem={attach.error ?? remove.error} />
    </section>
  );
}
