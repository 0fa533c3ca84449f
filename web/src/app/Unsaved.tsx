import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { Dialog } from '../shared/ui/Dialog';
import { anythingUnsaved, forgetUnsaved, wouldLose } from '../shared/unsaved';

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
    <Dialog onClose={() => blocker.reset()} title="Not saved yet">
      <p>What you changed here is lost if you leave.</p>
      <div style={{ display: 'flex', gap: 10 }}>
        <button className="button first" data-autofocus onClick={() => blocker.reset()}>
          Stay
        </button>
        <button
          className="button"
          onClick={() => {
            forgetUnsaved();
            blocker.proceed();
          }}
        >
          Leave without saving
        </button>
      </div>
    </Dialog>
  );
}
