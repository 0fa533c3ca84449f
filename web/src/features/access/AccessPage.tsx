import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import type { Problem } from '../../shared/api/http';
import { date, moment, words } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Empty, More, OfTab, Tabs, tell, tellProblem, Waiting } from '../../shared/ui';
import { Choice } from '../../shared/ui/fields';
import { NewUser, SetPassword } from './Dialogs';
import { accessQuery, ROLES, setEnabled, setRole, userLogQuery } from './api';

/** As wide as names are, and broken only where they are very long. */
const NAME = { maxWidth: 240, overflowWrap: 'break-word' } as const;

const TABS = [
  { to: '/access', label: 'Users' },
  { to: '/access/log', label: 'Log' },
];

/** Who may what, since when, when they were last seen; and what was changed of that, by whom. */
export function AccessPage() {
  const { tab = 'users' } = useParams();
  const { may } = useSession();
  const [adding, setAdding] = useState(false);
  const keeps = may('KEEP_USERS');
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
        <Tabs of={TABS} />
        <OfTab tab={tab} of={{ users: <Users keeps={keeps} />, log: <Log /> }} />
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
      <table className="rows">
        <caption className="unseen">Users</caption>
        <thead>
          <tr>
            <th>User</th>
            <th>Name</th>
            <th>Role</th>
            <th>Since</th>
            <th>Last signed in</th>
            <th>Stands in for</th>
            <th>Holds together</th>
            {keeps && <td />}
          </tr>
        </thead>
        <tbody>
          {access.data.map((user) => (
            <tr key={user.username} className={user.enabled ? undefined : 'muted'}>
              <td className="mono" style={NAME}>
                {user.username}
              </td>
              <td style={NAME}>{user.displayName}</td>
              <td>
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
              </td>
              <td className="nowrap">{user.since ? date(user.since.slice(0, 10)) : '–'}</td>
              <td className="nowrap">{user.lastSeen ? moment(user.lastSeen) : 'never'}</td>
              <td>{user.standsInFor.join(', ')}</td>
              <td>{user.together.join('; ')}</td>
              {keeps && (
                <td className="nowrap">
                  {user.username !== username && (
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
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {password && <SetPassword username={password} onClose={() => setPasswordOf(null)} />}
    </>
  );
}

function Log() {
  const list = useInfiniteQuery(userLogQuery);
  if (!list.data) return <Waiting query={list} />;
  const rows = list.data.pages.flatMap((page) => page.rows);
  return (
    <>
      <table className="rows up-to-820">
        <caption className="unseen">What happened to users</caption>
        <thead>
          <tr>
            <th>When</th>
            <th>User</th>
            <th>What</th>
            <th>By, or from</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              <td className="nowrap">{moment(row.at)}</td>
              <td className="mono" style={NAME}>
                {row.username}
              </td>
              <td>{row.what}</td>
              <td className="breaks">{row.by}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>Nobody has signed in yet.</Empty>}
      <More query={list} />
    </>
  );
}
