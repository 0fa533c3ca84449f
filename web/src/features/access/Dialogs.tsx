import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { words } from '../../shared/format';
import { ProblemNote, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { PasswordField } from '../../shared/ui/PasswordField';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useWritten } from '../../shared/written';
import { addUser, ROLES, setPassword } from './api';

const PASSWORD = 'At least 12 characters, without the user’s name in it, and none that is tried first.';

/** Somebody new, with a first password that they change. */
export function NewUser({ onClose }: { onClose: () => void }) {
  const user = useWritten<Parameters<typeof addUser>[0]>({
    username: '',
    displayName: '',
    role: 'CLERK',
    password: '',
  });
  const add = useMutation({
    mutationFn: () => addUser(user.values),
    onSuccess: () => {
      tell(`${user.values.displayName} can sign in as ${user.values.username}.`);
      onClose();
    },
    onError: user.refused,
  });
  return (
    <Dialog onClose={onClose} title="New user">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!add.isPending) add.mutate();
        }}
      >
        <Field of="new-username" label="User name" className="below-12" error={user.wrong('username')}>
          <TextLine
            id="new-username"
            className="mono"
            data-autofocus
            autoComplete="off"
            maxLength={60}
            {...user.of('username')}
          />
        </Field>
        <Field of="new-name" label="Name" className="below-12" error={user.wrong('displayName')}>
          <TextLine id="new-name" maxLength={120} {...user.of('displayName')} />
        </Field>
        <Field of="new-role" label="Role" className="below-12">
          <Choice id="new-role" {...user.of('role')}>
            {ROLES.map((role) => (
              <option key={role} value={role}>
                {words(role)}
              </option>
            ))}
          </Choice>
        </Field>
        <PasswordField chosen hint={PASSWORD} id="new-password" {...user.of('password')} />
        <ProblemNote problem={add.error} />
        <button type="submit" className="button first" disabled={add.isPending}>
          Create the user <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}

/** Another password for somebody; their sessions end. */
export function SetPassword({ username, onClose }: { username: string; onClose: () => void }) {
  const [password, setTyped] = useState('');
  const set = useMutation({
    mutationFn: () => setPassword(username, password),
    onSuccess: () => {
      tell(`${username} signs in with the new password from now on.`);
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title={`Password of ${username}`}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!set.isPending) set.mutate();
        }}
      >
        <PasswordField chosen hint={PASSWORD} id="set-password" value={password} onChange={setTyped} first />
        <ProblemNote problem={set.error} />
        <button type="submit" className="button first" disabled={!password || set.isPending}>
          Set the password <kbd>↵</kbd>
        </button>
      </form>
    </Dialog>
  );
}
