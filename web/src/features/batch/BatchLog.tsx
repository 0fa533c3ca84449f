import { Link } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { Dialog } from '../../shared/ui/Dialog';
import { BATCHES, BatchEntries } from './BatchPages';

/** The log of what was just done many at a time; what takes longer goes on while one looks, or leaves. */
export function BatchLog({ batch, onClose }: { batch: Schemas['BatchView'] | undefined; onClose: () => void }) {
  if (!batch) return null;
  return (
    <Dialog onClose={onClose} size="xl" title={BATCHES[batch.kind].title}>
      <BatchEntries id={batch.id} />
      <div className="row gap-16 above-14 aligned-baseline">
        <button className="button first" data-autofocus onClick={onClose}>
          Close
        </button>
        <Link to={`/batches/${batch.id}`}>Open the log</Link>
      </div>
    </Dialog>
  );
}
