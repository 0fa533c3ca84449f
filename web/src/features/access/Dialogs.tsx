import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { words } from '../../shared/format';
import { ProblemNote, tell } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { PasswordField } from '../../shared/ui/PasswordField';
import { addUser, ROLES, setPassword, type Role } from './api';

const PASSWORD = 'At least 12 characters, without the user’s name in it, and none that is tried first.';

/** Somebody new, with a first password that they change. */
export function NewUser({ onClose }: { onClose: () => void }) {
  const [user, setUser] = useState({ username: '', displayName: '', role: 'CLERK' as Role, password: '' });
  const add = useMutation({
    mutationFn: () => addUser(user),
    onSuccess: () => {
      tell(`${user.displayName} can sign in as ${user.username}.`);
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title="New user">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!add.isPending) add.mutate();
        }}
      >
        <div className="field below-12">
          <label htmlFor="new-username">User name</label>
          <input
            id="new-username"
            className="mono"
            data-autofocus
            autoComplete="off"
            maxLength={60}
            value={user.username}
            onChange={(event) => setUser({ ...user, username: event.target.value })}
          />
        </div>
        <div className="field below-12">
          <label htmlFor="new-name">Name</label>
          <input
            id="new-name"
            maxLength={120}
            value={user.displayName}
            onChange={(event) => setUser({ ...user, displayName: event.target.value })}
          />
        </div>
        <div className="field below-12">
          <label htmlFor="new-role">Role</label>
          <select
            id="new-role"
            value={user.role}
            onChange={(event) => setUser({ ...user, role: event.target.value as Role })}
          >
            {ROLES.map((role) => (
              <option key={role} value={role}>
                {words(role)}
              </option>
            ))}
          </select>
        </div>
        <PasswordField
          chosen
          hint={PASSWORD}
          id="new-password"
          value={user.password}
          onChange={(password) => setUser({ ...user, password })}
        />
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
