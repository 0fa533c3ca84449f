import { Modal } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { BATCHES, BatchEntries, batchQuery, progress } from '.';

/** The log of what was just done many at a time; what takes longer goes on while one looks, or leaves. */
export function BatchLog({ batch, onClose }: { batch: Schemas['BatchView'] | undefined; onClose: () => void }) {
  const query = useQuery({ ...batchQuery(String(batch?.id ?? '')), enabled: !!batch && batch.waiting > 0 });
  const shown = query.data ?? batch;
  if (!shown) return null;
  return (
    <Modal opened onClose={onClose} size="xl" title={<b>{BATCHES[shown.kind].title}</b>}>
      <p style={{ marginTop: 0 }}>{progress(shown)}</p>
      <BatchEntries batch={shown} />
      <div style={{ display: 'flex', gap: 16, marginTop: 14, alignItems: 'baseline' }}>
        <button className="button first" data-autofocus onClick={onClose}>
          Close
        </button>
        <Link to={`/batches/${shown.id}`}>Open the log</Link>
      </div>
    </Modal>
  );
}
