import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { capital, date } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import type { Row } from '../../shared/list/api';
import { Empty, More, OfTab, Tabs, Waiting } from '../../shared/ui';
import { WaitingPlan } from './ToDo';
import { UndoTogether, type Alike } from './Together';

const TABS = (
  <Tabs
    of={[
      { to: '/undone', label: 'Plans waiting' },
      { to: '/undone/done', label: 'Unwound documents' },
      { to: '/undone/report', label: 'Report' },
      { to: '/undone/leftovers', label: 'Remainders to cancel' },
    ]}
  />
);

/** All that was undone and all that still waits; and leftovers of many orders given up at once. */
export function UndonePage() {
  const { tab = 'waiting' } = useParams();
  if (tab === 'done') return <Undone key="done" />;
  if (tab === 'report') return <Undone key="report" first="by-reason" />;
  if (tab === 'leftovers') return <Leftovers />;
  return (
    <div className="page">
      <div className="page-scroll">
        {TABS}
        <OfTab tab={tab} of={{ waiting: <Waits /> }} />
      </div>
    </div>
  );
}

/** What was undone, or a report of it. */
function Undone({ first }: { first?: string }) {
  return (
    <DataList
      name="undone"
      first={first}
      isAbout={first !== undefined}
      top={TABS}
      cell={(column, row) => (column === 'words' ? capital(textIn(row, column)) : undefined)}
      className={(row) => (textIn(row, 'state') === 'ABANDONED' ? 'dropped' : '')}
    />
  );
}

/** Plans of which something is still to do, each with what that is. */
function Waits() {
  const query = useInfiniteQuery({
    queryKey: keyOf('unwind', 'waiting'),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/unwind/done', { params: { query: { waiting: true, after: pageParam } } })),
    ...pages,
  });
  if (!query.data) return <Waiting query={query} />;
  const rows = query.data.pages.flatMap((page) => page.rows);
  if (rows.length === 0) return <Empty>No plans are waiting.</Empty>;
  return (
    <>
      <h1>
        {rows.length === 1 ? 'One plan waits' : `${rows.length}${query.hasNextPage ? ' and more' : ''} plans wait`}
      </h1>
      <div className="todo-grid">
        {rows.map((row) => (
          <div key={row.id}>
            <div className="small muted">
              {row.customerName}, since {date(row.since)}
            </div>
            <WaitingPlan plan={row} />
          </div>
        ))}
      </div>
      <More query={query} />
    </>
  );
}

const LEFTOVERS: Alike = {
  kind: 'ORDER',
  intent: 'cancel-rest',
  one: 'order',
  many: 'orders',
  reason: 'leftover',
};

/** What nobody waits for any more: selected, looked at together and given up with one reason. */
function Leftovers() {
  const [asked, setAsked] = useState<{ rows: Row[]; none: () => void }>();
  const done = () => {
    asked?.none();
    setAsked(undefined);
  };
  return (
    <>
      <DataList
        name="orders"
        first="remainders"
        isAbout
        top={TABS}
        selected={(chosen, { none }) => (
          <div className="bar">
            <button
              className="button first"
              disabled={chosen.length === 0}
              onClick={() => setAsked({ rows: chosen, none })}
            >
              Cancel the rest of {chosen.length || ''} selected
            </button>
          </div>
        )}
      />
      {asked && (
        <UndoTogether
          of={LEFTOVERS}
          numbers={asked.rows.map((row) => row.opens)}
          onClose={() => setAsked(undefined)}
          onDone={done}
        />
      )}
    </>
  );
}
