import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import type { Problem } from '../../shared/api/http';
import { date, moment, words } from '../../shared/format';
import { DataList } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { OfTab, Tabs, tell, tellProblem, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { Choice } from '../../shared/ui/fields';
import { NewUser, SetPassword } from './Dialogs';
import { accessQuery, ROLES, setEnabled, setRole } from './api';

/** As wide as names are, and broken only where they are very long. */
const NAME = { maxWidth: 240, overflowWrap: 'break-word' } as const;

const TABS = (
  <Tabs
    of={[
      { to: '/access', label: 'Users' },
      { to: '/access/changes', label: 'Changes' },
      { to: '/access/sign-ins', label: 'Sign-ins' },
    ]}
  />
);

/** Who may what, since when, when they were last seen; and what was changed of that, by whom. */
export function AccessPage() {
  const { tab = 'users' } = useParams();
  const { may } = useSession();
  const [adding, setAdding] = useState(false);
  const keeps = may('KEEP_USERS');
  if (tab === 'changes') return <DataList name="access-changes" top={TABS} />;
  if (tab === 'sign-ins') return <DataList name="sign-ins" top={TABS} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Users and access</h1>
          {!keeps && <span className="muted">An administrator keeps the users.</span>}
          <span className="grows-1" />
          {keeps && (
            <button className="button" onClick={() => setAdding(true)}>
              New user
            </button>
          )}
        </div>
        {TABS}
        <OfTab tab={tab} of={{ users: <Users keeps={keeps} /> }} />
      </div>
      {adding && <NewUser onClose={() => setAdding(false)} />}
    </div>
  );
}

function Users({ keeps }: { keeps: boolean }) {
  const { username } = useSession();
  const access = useQuery(accessQuery);
  const [password, setPasswordOf] = useState<string | null>(null);
  const change = useMutation<unknown, Problem, () => Promise<unknown>>({
    mutationFn: (send) => send(),
    onSuccess: () => tell('Changed. Whoever it is signs in again.'),
    onError: tellProblem,
  });
  if (!access.data) return <Waiting query={access} />;
  return (
    <>
      <p className="muted">
        A combination of duties is told where one person holds it; on one document four eyes stand between the two.
      </p>
      <Table
        caption="Users"
        of={access.data}
        keyOf={(user) => user.username}
        rowOf={(user) => ({ className: user.enabled ? undefined : 'muted' })}
        columns={[
          { head: 'User', className: 'mono', does: () => ({ style: NAME }), cell: (user) => user.username },
          { head: 'Name', does: () => ({ style: NAME }), cell: (user) => user.displayName },
          {
            head: 'Role',
            cell: (user) => (
              <>
                {keeps && user.username !== username ? (
                  <Choice
                    className="bare"
                    aria-label={`Role of ${user.username}`}
                    value={user.role}
                    disabled={change.isPending}
                    onChange={(to) => change.mutate(() => setRole(user.username, to))}
                  >
                    {ROLES.map((one) => (
                      <option key={one} value={one}>
                        {words(one)}
                      </option>
                    ))}
                  </Choice>
                ) : (
                  words(user.role)
                )}
                {!user.enabled && ', switched off'}
              </>
            ),
          },
          { head: 'Since', className: 'nowrap', cell: (user) => (user.since ? date(user.since.slice(0, 10)) : '–') },
          {
            head: 'Last signed in',
            className: 'nowrap',
            cell: (user) => (user.lastSeen ? moment(user.lastSeen) : 'never'),
          },
          { head: 'Stands in for', cell: (user) => user.standsInFor.join(', ') },
          { head: 'Holds together', cell: (user) => user.together.join('; ') },
          keeps && {
            className: 'nowrap',
            cell: (user) =>
              user.username !== username && (
                <span className="row gap-14">
                  <button className="plain small" onClick={() => setPasswordOf(user.username)}>
                    Set password
                  </button>
                  <button
                    className="plain small"
                    disabled={change.isPending}
                    onClick={() => change.mutate(() => setEnabled(user.username, !user.enabled))}
                  >
                    {user.enabled ? 'Switch off' : 'Switch on'}
                  </button>
                </span>
              ),
          },
        ]}
      />
      {password && <SetPassword username={password} onClose={() => setPasswordOf(null)} />}
    </>
  );
}
