import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Problem } from '../api/http';
import { tellProblem, Waiting } from '../ui';
import { Dialog } from '../ui/Dialog';
import { DialogForm } from '../ui/DialogForm';
import { Field, TextLine } from '../ui/fields';
import { ALL, addressOf } from './address';
import { viewsQuery, type Asked, type SavedView } from './api';

/** Whose a view is. */
export const whose = (view: SavedView) => (view.isForAll ? 'everybody’s view' : 'my view');

/** The views of a list, each a link; one of them may be seen first. */
export function ViewsDialog({ list, onClose }: { list: string; onClose: () => void }) {
  const views = useQuery(viewsQuery(list));
  const standard = useMutation({
    mutationFn: (key: string) =>
      answer(client.PUT('/api/lists/{list}/standard', { params: { path: { list } }, body: { key }, ...once() })),
    onError: tellProblem,
  });
  const remove = useMutation({
    mutationFn: (key: string) =>
      answer(client.DELETE('/api/lists/{list}/views/{key}', { params: { path: { list, key } }, ...once() })),
    onError: tellProblem,
  });
  return (
    <Dialog title="Views" onClose={onClose} size="lg">
      {!views.data ? (
        <Waiting query={views} />
      ) : (
        <ul className="views">
          <li>
            <Link to={ALL} data-autofocus onClick={onClose}>
              All rows
            </Link>
          </li>
          {views.data.map((view) => (
            <li key={view.key}>
              <Link to={addressOf(view)} onClick={onClose}>
                {view.name}
              </Link>
              <span className="muted">
                {whose(view)}
                {view.owner && view.isForAll && !view.isMine && `, kept by ${view.owner}`}
              </span>
              <label className="nowrap">
                <input
                  type="checkbox"
                  checked={view.isStandard}
                  disabled={standard.isPending}
                  onChange={() => standard.mutate(view.isStandard ? '' : view.key)}
                />{' '}
                seen first
              </label>
              {view.isMine ? (
                <button
                  type="button"
                  className="plain"
                  aria-label={`Remove ${view.name}`}
                  disabled={remove.isPending}
                  onClick={() => remove.mutate(view.key)}
                >
                  Remove
                </button>
              ) : (
                <span />
              )}
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}

/** Keeps what is asked under a name; a view of one's own can be changed to it. */
export function SaveDialog({
  list,
  asked,
  now,
  onKept,
  onClose,
}: {
  list: string;
  asked: Asked;
  /** the view that is open */
  now: SavedView | undefined;
  onKept: (view: SavedView) => void;
  onClose: () => void;
}) {
  const changes = now?.isMine ? now : undefined;
  const [name, setName] = useState(changes?.name ?? '');
  const [forAll, setForAll] = useState(changes?.isForAll ?? false);
  const { filter, sort, columns, chart } = asked;
  const body = { name, forAll, filter, sort, columns, chart };
  const keep = useMutation<SavedView, Problem, 'new' | 'changed'>({
    mutationFn: (how) =>
      how === 'changed' && changes
        ? answer(
            client.PUT('/api/lists/{list}/views/{key}', {
              params: { path: { list, key: changes.key } },
              body: { version: changes.version ?? 0, view: body },
              ...once(),
            }),
          )
        : answer(client.POST('/api/lists/{list}/views', { params: { path: { list } }, body, ...once() })),
    onSuccess: onKept,
  });
  return (
    <Dialog title="Keep this view" onClose={onClose}>
      <DialogForm
        action={changes ? `Change ${changes.name}` : 'Keep'}
        ready={name.trim() !== ''}
        busy={keep.isPending}
        problem={keep.error}
        also={
          changes && (
            <button
              type="button"
              className="button"
              disabled={name.trim() === changes.name || keep.isPending}
              onClick={() => keep.mutate('new')}
            >
              Keep as another
            </button>
          )
        }
        onGiven={() => keep.mutate(changes ? 'changed' : 'new')}
        onClose={onClose}
      >
        <Field of="view-name" label="name">
          <TextLine
            id="view-name"
            data-autofocus
            className="cell-input wide-260"
            maxLength={80}
            value={name}
            onChange={setName}
          />
        </Field>
        <label className="above-14">
          <input type="checkbox" checked={forAll} onChange={(event) => setForAll(event.target.checked)} /> for everybody
          who reads this list
        </label>
      </DialogForm>
    </Dialog>
  );
}
