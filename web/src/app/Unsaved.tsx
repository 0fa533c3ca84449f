import { Modal } from '@mantine/core';
import { useEffect } from 'react';
import { useBlocker } from 'react-router';
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
    <Modal opened onClose={() => blocker.reset()} title={<b>Not saved yet</b>}>
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
    </Modal>
  );
}
