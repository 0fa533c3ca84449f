import { queryOptions, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { daysAgo, figure, isZero, moment } from '../../shared/format';
import { useKeys, usePlace } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Mark, tellProblem, Waiting } from '../../shared/ui';
import { TextLine } from '../../shared/ui/fields';
import { latestProofQuery } from '../proof';

type Lane = Schemas['LaneView'];

const todayQuery = queryOptions({ queryKey: keyOf('today'), queryFn: () => answer(client.GET('/api/today')) });

type Face = { words: string; to: string; weight: 'stop' | 'caution' };

/** Each lane: its words, the list it opens, and how heavily it weighs when something waits too long. */
const LANES: Record<string, Face> = {
  held: { words: 'Held', to: '/review?only=HELD', weight: 'stop' },
  flagged: { words: 'Flagged', to: '/review?only=FLAGGED', weight: 'caution' },
  awaiting: { words: 'For my decision', to: '/review?only=MINE', weight: 'stop' },
  'sent-back': { words: 'Sent back', to: '/orders?filter=sentBack:any:YES', weight: 'caution' },
  due: { words: 'Orders due', to: '/orders/due', weight: 'caution' },
  'to-stage': { words: 'To stage', to: '/goods', weight: 'caution' },
  staged: { words: 'Staged, not departed', to: '/goods/staged', weight: 'caution' },
  late: { words: 'Late', to: '/orders?filter=toShip:any:YES&filter=requestedOn:in:before-today', weight: 'stop' },
  'part-shipped': { words: 'Part shipped', to: '/orders?filter=partShipped:any:YES', weight: 'caution' },
  'to-bill': { words: 'Shipped, to bill', to: '/billing', weight: 'caution' },
  'unexpected-goods': { words: 'Unexpected goods', to: '/returns/unexpected', weight: 'stop' },
  'returns-to-receive': { words: 'Returns to receive', to: '/returns', weight: 'caution' },
  'returns-to-inspect': { words: 'Returns to inspect', to: '/returns/inspecting', weight: 'caution' },
  'returns-to-credit': { words: 'Returns to credit', to: '/returns/to-credit', weight: 'caution' },
  'credited-ahead': { words: 'Credited ahead', to: '/returns/ahead', weight: 'caution' },
  'refunds-to-do': { words: 'Refunds to send', to: '/billing/refunds', weight: 'stop' },
  'plans-waiting': { words: 'Plans waiting', to: '/undone', weight: 'caution' },
  disputes: {
    words: 'Disputes to look at',
    to: '/billing/disputes?filter=state:any:OPEN&filter=lookOn:in:last-3660-days&sort=lookOn',
    weight: 'caution',
  },
  'written-off': {
    words: 'Written off this month',
    to: '/billing/write-offs?filter=date:in:this-month',
    weight: 'caution',
  },
  'past-due': { words: 'Invoices past due', to: '/billing/invoices?filter=pastDue:any:YES&sort=dueOn', weight: 'stop' },
};
/** The face of a lane; one that this screen does not know yet shows its own name. */
const face = (lane: Lane): Face => LANES[lane.lane] ?? { words: lane.lane, to: '/', weight: 'caution' };

const PARTS = ['today', '1–2', '3–5', '6–10', '> 10'];
const LAST_DAY = [0, 2, 5, 10, Infinity];

/** The morning: what waits, how much it is worth, since when; each lane opens its list. */
export function TodayPage() {
  const { today, reads } = useSession();
  const query = useQuery(todayQuery);
  const proof = useQuery({ ...latestProofQuery, enabled: reads('BOOKS') });
  const navigate = useGo();
  const lanes = query.data?.lanes ?? [];
  const [at, setAt, moves] = usePlace(lanes.length);
  const open = (lane: Lane | undefined) => lane && navigate(face(lane).to);
  useKeys({
    ...moves,
    enter: () => open(lanes[at]),
  });
  if (!query.data) return <Waiting query={query} />;
  const { undecided, dueToday, since, lookedAt } = query.data;
  const failing = proof.data?.at ? proof.data.failing : 0;
  return (
    <div className="today">
      <section className="page-scroll">
        <h1>
          {undecided === null
            ? lanes.some((lane) => lane.count > 0)
              ? 'What waits today'
              : 'Nothing waits'
            : isZero(undecided)
              ? 'Nothing waits for a decision'
              : `${currency()} ${figure(undecided)} waiting for a decision`}
          {!isZero(dueToday) && `, ${figure(dueToday)} of it due today or late`}
        </h1>
        {lanes.length > 0 && (
          <div className="muted small below-6">
            Each lane shows {reads('SELLING') ? 'count, value' : 'count'} and days waiting. <kbd>J</kbd> <kbd>K</kbd>{' '}
            choose, <kbd>↵</kbd> opens the list.
          </div>
        )}
        {failing > 0 && (
          <Link className="lane" to="/proof">
            <b className="error">Statements that fail</b>
            <span className="num lane-count">{failing}</span>
            <span />
            <span />
            <span>
              <Mark of="stop" />
              the books do not agree
            </span>
          </Link>
        )}
        {lanes.map((lane, index) => (
          <LaneRow key={lane.lane} lane={lane} today={today} at={index === at} onAt={() => setAt(index)} />
        ))}
        {lanes.length > 0 && (
          <div className="lane muted small" style={{ border: 0 }} aria-hidden>
            <span />
            <span />
            <span />
            <span className="strip">
              {PARTS.map((part) => (
                <span key={part}>{part}</span>
              ))}
            </span>
            <span />
          </div>
        )}
      </section>
      {reads('SELLING') && (
        <aside>
          <h2>{lookedAt ? `Since your last visit, ${moment(lookedAt)}` : 'Recent events'}</h2>
          {since.length === 0 && <p className="muted">No decisions by others.</p>}
          {since.map((event, index) => (
            <div className="told" key={index}>
              <Doc kind={event.kind} number={event.number} /> {event.sentence}{' '}
              <span className="muted">by {event.by}</span>
            </div>
          ))}
          {since.length > 0 && <Looked />}
        </aside>
      )}
    </div>
  );
}

function LaneRow({ lane, today, at, onAt }: { lane: Lane; today: string; at: boolean; onAt: () => void }) {
  const { words, to, weight } = face(lane);
  const most = Math.max(1, ...lane.ages);
  return (
    <div className={`lane${at ? ' at' : ''}${lane.count === 0 ? ' muted' : ''}`}>
      <Link to={to} className="ink-inherit" onMouseEnter={onAt} onFocus={onAt}>
        <b>{words}</b>
      </Link>
      <Link to={to} className="num lane-count ink-inherit" aria-label={`${words}: ${lane.count}`}>
        {figure(String(lane.count))}
      </Link>
      <span className="num">{lane.count > 0 && lane.value !== null && `${currency()} ${figure(lane.value)}`}</span>
      <span
        className="strip"
        role="img"
        aria-label={PARTS.map((part, index) => `${part} days: ${lane.ages[index]}`).join(', ')}
      >
        {lane.ages.map((count, index) => (
          <span key={index} title={`${PARTS[index]} days: ${count}`}>
            <i
              className={(LAST_DAY[index] ?? 0) > lane.limitDays && count > 0 ? 'beyond' : ''}
              style={{ height: count === 0 ? 0 : Math.max(2, (22 * count) / most) }}
            />
          </span>
        ))}
      </span>
      <span className="small">
        {lane.count === 0 ? (
          'nothing waits'
        ) : lane.beyond > 0 ? (
          <>
            <Mark of={weight} />
            {figure(String(lane.beyond))} over
          </>
        ) : (
          <>oldest {daysAgo(lane.oldest ?? today, today)} · limit</>
        )}
        {lane.count > 0 && <Limit key={lane.limitDays} lane={lane} words={words} />}
      </span>
    </div>
  );
}

/** How many days are too many, for whoever is signed in. */
function Limit({ lane, words }: { lane: Lane; words: string }) {
  const [days, setDays] = useState(String(lane.limitDays));
  const set = useMutation({
    mutationFn: (to: number) =>
      answer(
        client.PUT('/api/today/limits/{lane}', {
          params: { path: { lane: lane.lane } },
          body: { days: to },
          ...once(),
        }),
      ),
    onError: tellProblem,
  });
  const give = () =>
    /^\d{1,3}$/.test(days)
      ? Number(days) !== lane.limitDays && set.mutate(Number(days))
      : setDays(String(lane.limitDays));
  return (
    <>
      <TextLine
        className="cell-input num wide-26 around-0-4px"
        inputMode="numeric"
        aria-label={`${words}: limit in days`}
        value={days}
        onChange={setDays}
        onBlur={give}
        onKeyDown={(event) => event.key === 'Enter' && give()}
      />
      days
    </>
  );
}

/** What has been read is not told again. */
function Looked() {
  const look = useMutation({
    mutationFn: () => answer(client.POST('/api/today/looks', once())),
    onError: tellProblem,
  });
  return (
    <button className="plain small above-10" disabled={look.isPending} onClick={() => look.mutate()}>
      Mark as read
    </button>
  );
}
