import { Menu, useMantineColorScheme } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { NavLink, Outlet } from 'react-router';
import { latestProofQuery } from '../features/proof';
import { answer, client, Problem, whenSessionEnds } from '../shared/api/http';
import { useBusy } from '../shared/busy';
import { date } from '../shared/format';
import { useScrollPlace } from '../shared/kept';
import { useKeys } from '../shared/keys';
import { useGo } from '../shared/navigation';
import { reads, sessionQuery, useSession } from '../shared/session';
import { Ring, tellProblem, Waiting } from '../shared/ui';
import { Dialog } from '../shared/ui/Dialog';
import { AbsenceDialog } from './Absence';
import { Find } from './Find';
import { OwnPasswordDialog } from './OwnPassword';
import { PostingDate } from './PostingDate';
import { SignIn } from './SignIn';
import { SignInAgain } from './SignInAgain';
import { Unsaved } from './Unsaved';
import { useListFocus } from './focus';
import { usePageTitle } from './title';

type Place = { to: string; label: string; of: Parameters<typeof reads>[1] };

const PLACES: Place[] = [
  { to: '/today', label: 'Today', of: 'all' },
  { to: '/review', label: 'Review', of: 'selling' },
  { to: '/orders', label: 'Orders', of: 'selling' },
  { to: '/goods', label: 'Goods', of: 'goods' },
  { to: '/billing', label: 'Billing', of: 'selling' },
  { to: '/returns', label: 'Returns', of: 'goods' },
  { to: '/ledger', label: 'Ledger', of: 'books' },
  { to: '/proof', label: 'Proof', of: 'books' },
];

const BELOW: Place[] = [
  { to: '/customers', label: 'Customers', of: 'settings' },
  { to: '/items', label: 'Items', of: 'all' },
  { to: '/rules', label: 'Rules', of: 'settings' },
  { to: '/outbox', label: 'Outbox', of: 'all' },
  { to: '/access', label: 'Access', of: 'access' },
];

const KEYS: [string, string][] = [
  ['/ or Ctrl K', 'Find a number, PO or name'],
  ['J, K', 'Next and previous in a list'],
  ['Enter', 'Open'],
  ['X', 'Select a row'],
  ['Shift X', 'Select all that are shown, or none'],
  ['W', 'Waive findings'],
  ['C', 'Clear: approve or clear the order, or all selected orders'],
  ['Shift J, Shift K', 'Move an order later or earlier in a bulk decision'],
  ['S', 'Send an order back'],
  ['D', 'Decline the order'],
  ['T', 'Open the trail'],
  ['U', 'Open Unwind'],
  ['B', 'Authorise a return'],
  ['N', 'New order'],
  ['Ctrl Enter', 'Submit an order, carry out a plan'],
  ['Ctrl S', 'Save as draft'],
  ['R', 'Run the proof again'],
];

/** The frame around every page: places, Find, the date, the seal, the user. */
export function Frame() {
  const session = useQuery(sessionQuery);
  if (!session.data) return <Waiting query={session} />;
  return session.data.username ? <SignedIn /> : <SignIn company={session.data.company} demo={session.data.demo} />;
}

function SignedIn() {
  const session = useSession();
  const navigate = useGo();
  const [help, setHelp] = useState(false);
  const [away, setAway] = useState(false);
  const [password, setPassword] = useState(false);
  const [ended, setEnded] = useState(false);
  const body = useRef<HTMLElement>(null);
  const busy = useBusy();
  usePageTitle();
  useScrollPlace();
  useListFocus(body);
  useEffect(() => {
    whenSessionEnds(() => setEnded(true));
    return () => whenSessionEnds(() => undefined);
  }, []);
  useKeys({ '?': () => setHelp(true), n: () => navigate('/orders/new') });
  return (
    <div className="frame">
      <div className="frame-name">Euthyna</div>
      <header className="frame-top">
        <Find />
        <PostingDate />
        <span style={{ flex: 1 }} />
        {reads(session.role, 'books') && <Seal />}
        <UserMenu onKeys={() => setHelp(true)} onAway={() => setAway(true)} onPassword={() => setPassword(true)} />
      </header>
      <nav className="frame-places" aria-label="Places">
        {PLACES.filter((place) => reads(session.role, place.of)).map((place) => (
          <NavLink key={place.to} to={place.to}>
            {place.label}
          </NavLink>
        ))}
        <hr />
        {BELOW.filter((place) => reads(session.role, place.of)).map((place) => (
          <NavLink key={place.to} to={place.to}>
            {place.label}
          </NavLink>
        ))}
        <div className="frame-foot muted">
          <span>{session.company}</span>
          <button className="plain" onClick={() => setHelp(true)}>
            Keys <kbd>?</kbd>
          </button>
        </div>
      </nav>
      {/* what is shown while a command runs is not yet what it will be: nothing is clicked on the strength of it */}
      <main className="frame-body" ref={body} tabIndex={-1} aria-busy={busy}>
        <Outlet />
      </main>
      <Unsaved />
      {ended && <SignInAgain onDone={() => setEnded(false)} />}
      {password && <OwnPasswordDialog onClose={() => setPassword(false)} />}
      {away && <AbsenceDialog onClose={() => setAway(false)} />}
      {help && (
        <Dialog closeOnClickOutside onClose={() => setHelp(false)} title="Keys">
          {KEYS.map(([key, what]) => (
            <div className="pair" key={key}>
              <span>{what}</span>
              <kbd>{key}</kbd>
            </div>
          ))}
        </Dialog>
      )}
    </div>
  );
}

/** Whether the books agreed when they were last proved. */
function Seal() {
  const { data } = useQuery(latestProofQuery);
  const at = data?.at ? new Date(data.at) : null;
  const time = at?.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const today = at?.toDateString() === new Date().toDateString();
  const when = data?.at && (today ? `at ${time}` : `on ${date(data.at.slice(0, 10))}`);
  const says =
    !data || !at
      ? 'Not proved yet'
      : data.failing === 0
        ? 'Books agree'
        : data.failing === 1
          ? 'One statement fails'
          : `${data.failing} statements fail`;
  return (
    <NavLink to="/proof" className="nowrap" style={{ color: 'inherit' }} title="Open Proof">
      <Ring holds={data && at ? data.failing === 0 : null} />
      {says} <span className="muted">{when}</span>
    </NavLink>
  );
}

function UserMenu({ onKeys, onAway, onPassword }: { onKeys: () => void; onAway: () => void; onPassword: () => void }) {
  const session = useSession();
  const { setColorScheme } = useMantineColorScheme();
  const signOut = async () => {
    try {
      await answer(client.DELETE('/api/session'));
      // nothing that was seen or typed stays
      window.location.assign('/');
    } catch (problem) {
      tellProblem(problem as Problem);
    }
  };
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <button className="plain nowrap" style={{ color: 'inherit' }}>
          {session.username}
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>
          {session.displayName}, {session.role.toLowerCase()}
          {session.standsInFor.length > 0 && `, standing in for the ${session.standsInFor.join(' and ').toLowerCase()}`}
        </Menu.Label>
        <Menu.Item onClick={() => setColorScheme('light')}>Light</Menu.Item>
        <Menu.Item onClick={() => setColorScheme('dark')}>Dark</Menu.Item>
        <Menu.Item onClick={() => setColorScheme('auto')}>System setting</Menu.Item>
        <Menu.Divider />
        <Menu.Item onClick={onAway}>While you are away</Menu.Item>
        <Menu.Item onClick={onPassword}>Change your password</Menu.Item>
        <Menu.Item onClick={onKeys}>Keys</Menu.Item>
        <Menu.Item onClick={signOut}>Sign out</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
