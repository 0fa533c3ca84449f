import { queryOptions, useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
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

/** Lanes stand in groups, in the order of the work. */
const GROUPS = ['Decide', 'Move', 'Bill, collect', 'Returns', 'Books'] as const;

type Face = { group: (typeof GROUPS)[number]; words: string; to: string; weight: 'stop' | 'caution' };

/** Each lane: where it stands, its words, the list it opens, and how heavily it weighs when something waits too long. */
const LANES: Record<string, Face> = {
  held: { group: 'Decide', words: 'Held', to: '/review?only=HELD', weight: 'stop' },
  awaiting: { group: 'Decide', words: 'For my decision', to: '/review?only=MINE', weight: 'stop' },
  flagged: { group: 'Decide', words: 'Flagged', to: '/review?only=FLAGGED', weight: 'caution' },
  'sent-back': { group: 'Decide', words: 'Sent back', to: '/orders?filter=sentBack:any:YES', weight: 'caution' },
  disputes: {
    group: 'Decide',
    words: 'Disputes to look at',
    to: '/billing/disputes?filter=state:any:OPEN&filter=lookOn:in:last-3660-days&sort=lookOn',
    weight: 'caution',
  },
  late: {
    group: 'Move',
    words: 'Late',
    to: '/orders?filter=toShip:any:YES&filter=requestedOn:in:before-today',
    weight: 'stop',
  },
  'to-stage': { group: 'Move', words: 'To stage', to: '/goods', weight: 'caution' },
  staged: { group: 'Move', words: 'Staged, not departed', to: '/goods/staged', weight: 'caution' },
  'part-shipped': {
    group: 'Move',
    words: 'Part shipped',
    to: '/orders?filter=partShipped:any:YES',
    weight: 'caution',
  },
  due: { group: 'Move', words: 'Orders due', to: '/orders/due', weight: 'caution' },
  'to-bill': { group: 'Bill, collect', words: 'Shipped, to bill', to: '/billing', weight: 'caution' },
  'past-due': {
    group: 'Bill, collect',
    words: 'Invoices past due',
    to: '/billing/invoices?filter=pastDue:any:YES&sort=dueOn',
    weight: 'stop',
  },
  'refunds-to-do': { group: 'Bill, collect', words: 'Refunds to send', to: '/billing/refunds', weight: 'stop' },
  'returns-to-receive': { group: 'Returns', words: 'To receive', to: '/returns', weight: 'caution' },
  'unexpected-goods': { group: 'Returns', words: 'Unexpected goods', to: '/returns/unexpected', weight: 'stop' },
  'returns-to-inspect': { group: 'Returns', words: 'To inspect', to: '/returns/inspecting', weight: 'caution' },
  'returns-to-credit': { group: 'Returns', words: 'To credit', to: '/returns/to-credit', weight: 'caution' },
  'credited-ahead': { group: 'Returns', words: 'Credited ahead', to: '/returns/ahead', weight: 'caution' },
  'plans-waiting': { group: 'Books', words: 'Plans waiting', to: '/undone', weight: 'caution' },
  'written-off': {
    group: 'Books',
    words: 'Written off this month',
    to: '/billing/write-offs?filter=date:in:this-month',
    weight: 'caution',
  },
};
/** The face of a lane; one that this screen does not know yet shows its own name. */
const face = (lane: Lane): Face => LANES[lane.lane] ?? { group: 'Books', words: lane.lane, to: '/', weight: 'caution' };

const PLACES = Object.keys(LANES);

/** How high the highest part of a strip is. */
const STRIP = 18;

const PARTS = ['today', '1–2', '3–5', '6–10', '> 10'];
const LAST_DAY = [0, 2, 5, 10, Infinity];

/** The morning: what waits, how much it is worth, since when; each lane opens its list. */
export function TodayPage() {
  const { today, reads } = useSession();
  const query = useQuery(todayQuery);
  const proof = useQuery({ ...latestProofQuery, enabled: reads('BOOKS') });
  const navigate = useGo();
  const all = query.data?.lanes ?? [];
  const lanes = all
    .filter((lane) => lane.count > 0)
    .sort((one, other) => PLACES.indexOf(one.lane) - PLACES.indexOf(other.lane));
  const empty = all.filter((lane) => lane.count === 0);
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
            ? lanes.length > 0
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
        {lanes.length > 0 && <Ages />}
        {GROUPS.map((group) => (
          <Group key={group} name={group} fails={group === 'Books' ? failing : 0}>
            {lanes.map(
              (lane, index) =>
                face(lane).group === group && (
                  <LaneRow key={lane.lane} lane={lane} today={today} at={index === at} onAt={() => setAt(index)} />
                ),
            )}
          </Group>
        ))}
        {empty.length > 0 && (
          <p className="muted small above-10">
            Nothing in:{' '}
            {empty.map((lane, index) => (
              <span key={lane.lane}>
                {index > 0 && ', '}
                <Link className="ink-inherit" to={face(lane).to}>
                  {folded(lane)}
                </Link>
              </span>
            ))}
          </p>
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

/** A lane in a sentence, where its group does not stand beside it. */
const folded = (lane: Lane) => {
  const { group, words } = face(lane);
  return group === 'Returns' && words.startsWith('To ') ? `Returns ${words.toLowerCase()}` : words;
};

/** What the parts of the strips are. */
function Ages() {
  return (
    <div className="lanes muted small" aria-hidden>
      <span />
      <div className="lane lane-ages">
        <span />
        <span />
        <span />
        <span className="strip">
          {PARTS.map((part) => (
            <span key={part}>{part}</span>
          ))}
        </span>
        <span>days</span>
      </div>
    </div>
  );
}

/** Lanes of one kind of work; a group in which nothing waits is not there. */
function Group({ name, fails, children }: { name: string; fails: number; children: ReactNode[] }) {
  if (fails === 0 && children.every((child) => !child)) return null;
  return (
    <div className="lanes">
      <h2>{name}</h2>
      <div>
        {fails > 0 && (
          <Link className="lane" to="/proof">
            <b className="error">Statements that fail</b>
            <span className="num lane-count">{fails}</span>
            <span />
            <span />
            <span>
              <Mark of="stop" />
              the books do not agree
            </span>
          </Link>
        )}
        {children}
      </div>
    </div>
  );
}

function LaneRow({ lane, today, at, onAt }: { lane: Lane; today: string; at: boolean; onAt: () => void }) {
  const { words, to, weight } = face(lane);
  const most = Math.max(1, ...lane.ages);
  return (
    <div className={`lane${at ? ' at' : ''}`}>
      <Link to={to} className="ink-inherit" onMouseEnter={onAt} onFocus={onAt}>
        <b>{words}</b>
      </Link>
      <Link to={to} className="num lane-count ink-inherit" aria-label={`${words}: ${lane.count}`}>
        {figure(String(lane.count))}
      </Link>
      <span className="num">{lane.value !== null && `${currency()} ${figure(lane.value)}`}</span>
      <span
        className="strip"
        role="img"
        aria-label={PARTS.map((part, index) => `${part} days: ${lane.ages[index]}`).join(', ')}
      >
        {lane.ages.map((count, index) => (
          <span key={index} title={`${PARTS[index]} days: ${count}`}>
            <i
              className={(LAST_DAY[index] ?? 0) > lane.limitDays && count > 0 ? 'beyond' : ''}
              style={{ height: count === 0 ? 0 : Math.max(2, (STRIP * count) / most) }}
            />
          </span>
        ))}
      </span>
      <span className="small nowrap">
        {lane.beyond > 0 ? (
          <>
            <Mark of={weight} />
            {figure(String(lane.beyond))} over
          </>
        ) : (
          <>oldest {daysAgo(lane.oldest ?? today, today)}, limit</>
        )}
        <Limit key={lane.limitDays} lane={lane} words={words} />
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
