import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client } from '../shared/api/http';
import { queries } from '../shared/api/queries';
import { sessionQuery, useSession } from '../shared/session';
import { ProblemNote } from '../shared/ui';
import { Dialog } from '../shared/ui/Dialog';
import { PasswordField } from '../shared/ui/PasswordField';

/** The session is over: the same person signs in again, and finds the page as it was, with all that was typed. */
export function SignInAgain({ onDone }: { onDone: () => void }) {
  const { username } = useSession();
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: () => answer(client.POST('/api/session', { body: { username, password } })),
    onSuccess: (session) => {
      queries.setQueryData(sessionQuery.queryKey, session);
      onDone();
    },
  });
  return (
    <Dialog fixed title="Your session is over">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!signIn.isPending) signIn.mutate();
        }}
      >
        <p>What you typed is still there. Sign in as {username} to go on.</p>
        <PasswordField first id="again-password" value={password} onChange={setPassword} />
        <ProblemNote problem={signIn.error} />
        <div className="row gap-10">
          <button type="submit" className="button first" disabled={signIn.isPending}>
            Sign in <kbd>↵</kbd>
          </button>
          <button type="button" className="button" onClick={() => window.location.assign('/')}>
            Somebody else
          </button>
        </div>
      </form>
    </Dialog>
  );
}
