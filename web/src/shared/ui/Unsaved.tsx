import { Modal } from '@mantine/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { useBlocker } from 'react-router';

/**
 * Asks before what was typed is lost: on the way to another place, and when the window is closed.
 *
 * @returns the question, to be shown; and what lets one go when all is saved
 */
export function useUnsaved(dirty: boolean): { question: ReactNode; leave: () => void } {
  const saved = useRef(false);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      dirty && !saved.current && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (!dirty) return;
    const ask = (event: BeforeUnloadEvent) => {
      if (!saved.current) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [dirty]);
  const question = blocker.state === 'blocked' && (
    <Modal opened onClose={() => blocker.reset()} title={<b>Not saved yet</b>}>
      <p>What you changed here is lost if you leave.</p>
      <div style={{ display: 'flex', gap: 10 }}>
        <button className="button first" data-autofocus onClick={() => blocker.reset()}>
          Stay
        </button>
        <button className="button" onClick={() => blocker.proceed()}>
          Leave without saving
        </button>
      </div>
    </Modal>
  );
  return {
    question,
    leave: () => {
      saved.current = true;
    },
  };
}
