import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { useKeysOver } from '../../shared/keys';
import { tellProblem } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { usePrint, type Paper } from '../paper';
import { BATCHES, BatchEntries, batchQuery } from './BatchPages';

/** What is put on paper of what was done. */
const PAPERS: Partial<Record<Schemas['BatchView']['kind'], { paper: Paper; words: string }>> = {
  STAGING: { paper: 'PACKING_SLIP', words: 'Print packing slips' },
  DEPARTURE: { paper: 'PACKING_SLIP', words: 'Print packing slips' },
  BILLING: { paper: 'INVOICE', words: 'Print invoices' },
};

/** What is done next with what was done. */
const FOLLOWING: Partial<Record<Schemas['BatchView']['kind'], string>> = {
  DEPARTURE: 'Send off what was staged',
  BILLING: 'Bill what left',
};

/**
 * The log of what was just done many at a time; what takes longer goes on while one looks, or leaves. From it one goes on with
 * the documents that it came to.
 */
export function BatchLog({ batch, onClose }: { batch: Schemas['BatchView'] | undefined; onClose: () => void }) {
  return batch ? <Log key={batch.id} first={batch} onClose={onClose} /> : null;
}

function Log({ first, onClose }: { first: Schemas['BatchView']; onClose: () => void }) {
  const [id, setId] = useState(first.id);
  const query = useInfiniteQuery(batchQuery(id));
  const batch = query.data?.pages[0] ?? first;
  const print = usePrint();
  const follow = useMutation({
    mutationFn: () => answer(client.POST('/api/batches/{id}/next-steps', { params: { path: { id } }, ...once() })),
    onSuccess: (following) => setId(following.id),
    onError: tellProblem,
  });
  const paper = batch.results.length > 0 ? PAPERS[batch.kind] : undefined;
  const following = batch.following && batch.waiting === 0 ? FOLLOWING[batch.following] : undefined;
  const toPrint = paper && !print.isPending ? paper : undefined;
  const onPrint = toPrint && (() => print.mutate({ paper: toPrint.paper, numbers: batch.results }));
  const onFollow = following && !follow.isPending ? () => follow.mutate() : undefined;
  useKeysOver({ p: onPrint, n: onFollow });
  return (
    <Dialog onClose={onClose} size="xl" title={BATCHES[batch.kind].title}>
      <BatchEntries key={id} id={id} />
      <div className="row gap-16 above-14 aligned-baseline">
        <button className="button first" data-autofocus onClick={onClose}>
          Close
        </button>
        {paper && (
          <button className="button" disabled={!onPrint} onClick={onPrint}>
            {paper.words} <kbd>P</kbd>
          </button>
        )}
        {following && (
          <button className="button" disabled={!onFollow} onClick={onFollow}>
            {following} <kbd>N</kbd>
          </button>
        )}
        <Link to={`/batches/${id}`}>Open the log</Link>
      </div>
    </Dialog>
  );
}
