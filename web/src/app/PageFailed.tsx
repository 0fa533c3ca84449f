import { useRouteError } from 'react-router';
import { Empty } from '../shared/ui';

/** A page that failed takes nothing else along: every other place can be gone to. */
export function PageFailed() {
  const error = useRouteError();
  return (
    <div role="alert">
      <Empty>This page failed. Everything that was saved is safe; go to another place, or load it again.</Empty>
      <p className="muted small text-center">
        {error instanceof Error ? error.message : String(error)}{' '}
        <button className="plain" onClick={() => window.location.reload()}>
          Load again
        </button>
      </p>
    </div>
  );
}
