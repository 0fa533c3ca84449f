import { lazy, Suspense, useEffect } from 'react';
import { useBlocker } from 'react-router';
import { anythingUnsaved, forgetUnsaved, wouldLose } from '../shared/unsaved';

const LeaveDialog = lazy(() => import('./seldom').then((loaded) => ({ default: loaded.LeaveDialog })));

/** Asks before what was typed is lost: on the way to another place, and when the window is closed. */
export function Unsaved() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname && wouldLose(nextLocation.pathname),
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (anythingUnsaved()) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, []);
  if (blocker.state !== 'blocked') return null;
  return (
    <Suspense>
      <LeaveDialog
        onStay={() => blocker.reset()}
        onLeave={() => {
          forgetUnsaved();
          blocker.proceed();
        }}
      />
    </Suspense>
  );
}
