import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { NavLink, Outlet } from 'react-router';
import { latestProofQuery } from '../features/proof/api';
import { whenSessionEnds } from '../shared/api/http';
import { useBusy } from '../shared/busy';
import { date } from '../shared/format';
import { useScrollPlace } from '../shared/kept';
import { useKeys } from '../shared/keys';
import { useGo } from '../shared/navigation';
import { sessionQuery, useSession, type Readable } from '../shared/session';
import { Ring, Waiting } from '../shared/ui';
import { Find } from './Find';
import { PostingDate } from './PostingDate';
import { SignIn } from './SignIn';
import { Unsaved } from './Unsaved';
import { useListFocus } from './focus';
import { usePageTitle } from './title';

// what is seldom asked for is not waited for; it is fetched with the menu, as soon as the page is there
const seldom = () => import('./seldom');
const AbsenceDialog = lazy(() => seldom().then((loaded) => ({ default: loaded.AbsenceDialog })));
const KeysDialog = lazy(() => seldom().then((loaded) => ({ default: loaded.KeysDialog })));
const OwnPasswordDialog = lazy(() => seldom().then((loaded) => ({ default: loaded.OwnPasswordDialog })));
const SignInAgain = lazy(() => seldom().then((loaded) => ({ default: loaded.SignInAgain })));
const UserMenu = lazy(() => seldom().then((loaded) => ({ default: loaded.UserMenu })));

type Place = { to: string; label: string; of?: Readable };

const PLACES: Place[] = [
  { to: '/today', label: 'Today' },
  { to: '/review', label: 'Review', of: 'SELLING' },
  { to: '/orders', label: 'Orders', of: 'SELLING' },
  { to: '/goods', label: 'Goods', of: 'GOODS' },
  { to: '/billing', label: 'Billing', of: 'SELLING' },
  { to: '/returns', label: 'Returns', of: 'GOODS' },
  { to: '/lists', label: 'Lists', of: 'GOODS' },
  { to: '/ledger', label: 'Ledger', of: 'BOOKS' },
  { to: '/proof', label: 'Proof', of: 'BOOKS' },
];

const BELOW: Place[] = [
  { to: '/customers', label: 'Customers', of: 'SETTINGS' },
  { to: '/items', label: 'Items' },
  { to: '/rules', label: 'Rules', of: 'SETTINGS' },
  { to: '/outbox', label: 'Outbox' },
  { to: '/access', label: 'Access', of: 'ACCESS' },
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
  const shown = (place: Place) => !place.of || session.reads(place.of);
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
      <a
        className="skip"
        href="#page"
        onClick={(event) => {
          event.preventDefault();
          body.current?.focus();
        }}
      >
        Skip to the page
      </a>
      <div className="frame-name">Euthyna</div>
      <header className="frame-top">
        <Find />
        <PostingDate />
        <span className="grows-1" />
        {session.reads('BOOKS') && <Seal />}
        <Suspense fallback={<span className="plain nowrap">{session.username}</span>}>
          <UserMenu onKeys={() => setHelp(true)} onAway={() => setAway(true)} onPassword={() => setPassword(true)} />
        </Suspense>
      </header>
      <nav className="frame-places" aria-label="Places">
        {PLACES.filter(shown).map((place) => (
          <NavLink key={place.to} to={place.to}>
            {place.label}
          </NavLink>
        ))}
        <hr />
        {BELOW.filter(shown).map((place) => (
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
      <main id="page" className="frame-body" ref={body} tabIndex={-1} aria-busy={busy}>
        <Outlet />
      </main>
      <Unsaved />
      <Suspense>
        {password && <OwnPasswordDialog onClose={() => setPassword(false)} />}
        {away && <AbsenceDialog onClose={() => setAway(false)} />}
        {help && <KeysDialog onClose={() => setHelp(false)} />}
        {ended && <SignInAgain onDone={() => setEnded(false)} />}
      </Suspense>
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
    <NavLink to="/proof" className="nowrap ink-inherit" title="Open Proof">
      <Ring holds={data && at ? data.failing === 0 : null} />
      <span role="status">
        {says} <span className="muted">{when}</span>
      </span>
    </NavLink>
  );
}
