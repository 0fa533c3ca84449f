import { Modal } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../shared/api/http';
import { ProblemNote, tell } from '../shared/ui';

/** Whoever is signed in changes their own password, and knows the old one. */
export function OwnPasswordDialog({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState({ current: '', next: '' });
  const change = useMutation({
    mutationFn: () => answer(client.PUT('/api/users/me/password', { body: typed, ...once() })),
    onSuccess: () => {
      tell('Your password is changed.');
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title={<b>Change your password</b>}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!change.isPending) change.mutate();
        }}
      >
        <div className="field" style={{ marginBottom: 12 }}>
          <label htmlFor="own-current">Current password</label>
          <input
            id="own-current"
            type="password"
            data-autofocus
            autoComplete="current-password"
            maxLength={200}
            value={typed.current}
            onChange={(event) => setTyped({ ...typed, current: event.target.value })}
          />
        </div>
        <div className="field" style={{ margin: '0 0 12px' }}>
          <label htmlFor="own-next">New password</label>
          <input
            id="own-next"
            type="password"
            autoComplete="new-password"
            maxLength={200}
            value={typed.next}
            onChange={(event) => setTyped({ ...typed, next: event.target.value })}
          />
          <span className="muted small">At least 12 characters, without your user name in it.</span>
        </div>
        <ProblemNote problem={change.error} />
        <button type="submit" className="button first" disabled={!typed.current || !typed.next || change.isPending}>
          Change the password <kbd>↵</kbd>
        </button>
      </form>
    </Modal>
  );
}
