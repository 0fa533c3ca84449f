import { useMutation } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { DataList, textIn } from '../../shared/list/DataList';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { tellProblem } from '../../shared/ui';
import { PrintButton } from '../paper';

/**
 * A view of the returns.
 *
 * - view: as it ships; empty for all
 * - reminds: customers are reminded of what stands in it
 */
export type Lane = { view: string; reminds?: boolean };

/** Returns that wait for something, and what is done with those that are selected. */
export function Lanes({ of: { view, reminds = false }, tabs }: { of: Lane; tabs: ReactNode }) {
  const { may } = useSession();
  return (
    <DataList
      key={view}
      name="returns"
      first={view}
      isAbout
      top={tabs}
      cell={(column, row) => (column === 'reason' ? textIn(row, 'reason').replaceAll('-', ' ') : undefined)}
      className={(row) => (textIn(row, 'withdrawn') === 'YES' ? 'dropped' : '')}
      selected={(chosen) => {
        const numbers = chosen.map((row) => row.opens);
        return (
          <div className="bar">
            <Link className="button first" to="/returns/new">
              Authorise a return
            </Link>
            {reminds && may('PROPOSE') && <Remind numbers={numbers} />}
            <PrintButton paper="RETURN_SLIP" numbers={numbers}>
              {`Print ${numbers.length || ''} slips`}
            </PrintButton>
            <span className="muted small">
              <kbd>X</kbd> selects · <kbd>↵</kbd> opens
              {may('MOVE_GOODS') ? ' · scan a slip’s barcode into Find to open its return' : ''}
            </span>
          </div>
        );
      }}
    />
  );
}

function Remind({ numbers }: { numbers: string[] }) {
  const navigate = useGo();
  const remind = useMutation({
    mutationFn: () => answer(client.POST('/api/batches/return-reminders', { body: { returns: numbers }, ...once() })),
    onSuccess: (batch) => navigate(`/batches/${batch.id}`),
    onError: tellProblem,
  });
  return (
    <button className="button" disabled={numbers.length === 0 || remind.isPending} onClick={() => remind.mutate()}>
      {`Remind ${numbers.length || ''} selected`}
    </button>
  );
}
