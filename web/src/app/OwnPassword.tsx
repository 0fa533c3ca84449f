import { useMutation } from '@tanstack/react-query';
import { answer, client, once } from '../shared/api/http';
import { ProblemNote, tell } from '../shared/ui';
import { Dialog } from '../shared/ui/Dialog';
import { PasswordField } from '../shared/ui/PasswordField';
import { useWritten } from '../shared/written';

/** Whoever is signed in changes their own password, and knows the old one. */
export function OwnPasswordDialog({ onClose }: { onClose: () => void }) {
  const typed = useWritten({ current: '', next: '' });
  const change = useMutation({
    mutationFn: () => answer(client.PUT('/api/users/me/password', { body: typed.values, ...once() })),
    onSuccess: () => {
      tell('Your password is changed.');
      onClose();
    },
    onError: typed.refused,
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
          error={typed.wrong('current')}
          {...typed.of('current')}
        />
        <PasswordField
          chosen
          id="own-next"
          label="New password"
          hint="At least 12 characters, without your user name in it."
          error={typed.wrong('next')}
          {...typed.of('next')}
        />
        <ProblemNote problem={change.error} />
        <button
          type="submit"
          className="button first"
          disabled={!typed.values.current || !typed.values.next || change.isPending}
        >
          Change the password <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}
