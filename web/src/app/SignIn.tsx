import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client } from '../shared/api/http';
import { startSession } from '../shared/api/queries';
import { ProblemNote } from '../shared/ui';

export function SignIn({ company, demo }: { company: string; demo: boolean }) {
  const [username, setUsername] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: () => answer(client.POST('/api/session', { body: { username, password } })),
    onSuccess: (session) => {
      startSession(session);
    },
  });
  return (
    <div className="sign-in">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <div>
          <h1>Euthyna</h1>
          <div className="muted">{company}</div>
        </div>
        <div className="field">
          <label htmlFor="username">Name</label>
          <input
            id="username"
            autoFocus
            autoComplete="username"
            value={username}
            onChange={(e) => setUsername(e.target.value)}
          />
        </div>
        <div className="field">
          <label htmlFor="password">Password</label>
          <input
            id="password"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </div>
        <ProblemNote problem={signIn.error} />
        <button className="button first" disabled={signIn.isPending} style={{ alignSelf: 'flex-start' }}>
          Sign in
        </button>
        {demo && (
          <div className="muted small">
            A demo with made-up data. Users: clerk, controller, lead, warehouse, receivables, auditor. The password is
            the name.
          </div>
        )}
      </form>
    </div>
  );
}
