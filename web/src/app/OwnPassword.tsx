import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../shared/api/http';
import { ProblemNote, tell } from '../shared/ui';
import { Dialog } from '../shared/ui/Dialog';
import { PasswordField } from '../shared/ui/PasswordField';

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
    <Dialog onClose={onClose} title="Change your password">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!change.isPending) change.mutate();
        }}
      >
        <PasswordField
          first
          id="own-current"
          label="Current password"
          value={typed.current}
          onChange={(current) => setTyped({ ...typed, current })}
        />
        <PasswordField
          chosen
          id="own-next"
          label="New password"
          hint="At least 12 characters, without your user name in it."
          value={typed.next}
          onChange={(next) => setTyped({ ...typed, next })}
        />
        <ProblemNote problem={change.error} />
        <button type="submit" className="button first" disabled={!typed.current || !typed.next || change.isPending}>
          Change the password <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}
