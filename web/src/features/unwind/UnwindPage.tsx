import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { answer, client, once, type Problem, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { capital, isZero, trim, words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, Empty, keepReason, ProblemNote, ReasonInput, tell, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Choice, Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { PlanSheet, WAITS } from './PlanSheet';

type Kind = Schemas['WayView']['kind'];
type Way = Schemas['WayView'];
type Question = Schemas['QuestionView'];

/** What an order with a deposit is asked before it can be planned at all. */
const DEPOSIT: Question = {
  code: 'money',
  words: 'Deposit',
  answers: [
    { code: 'refund', words: 'Refund it' },
    { code: 'customer-credit', words: 'Move it to customer credit' },
  ],
};

const nameOf = (way: Way) => `${way.intent} ${way.kind} ${way.number}`;

/** What should be undone, the plan for it, before and after, and one button that says what it will do. */
export function UnwindPage() {
  const params = useParams();
  const kind = (params.kind ?? 'ORDER') as Kind;
  const number = params.number ?? '';
  const ways = useQuery({
    queryKey: keyOf('unwind', 'ways', kind, number),
    queryFn: () => answer(client.GET('/api/unwind/ways', { params: { query: { kind, number } } })),
  });
  if (!ways.data) return <Waiting query={ways} />;
  const first = ways.data.ways.find((way) => way.possible) ?? ways.data.ways[0];
  if (!first) return <Empty>This document cannot be unwound.</Empty>;
  return <Chosen key={kind + number} kind={kind} number={number} of={ways.data} first={first} />;
}

function Chosen({ kind, number, of, first }: { kind: Kind; number: string; of: Schemas['WaysView']; first: Way }) {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  // chosen at once, though the address follows in its own time
  const [chosen, setChosen] = useState(search.get('way'));
  const way = of.ways.find((one) => nameOf(one) === chosen) ?? first;
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [quantities, setQuantities] = useState<Record<number, string> | null>(null);
  const [date, setDate] = useState(today);
  const [reasonCode, setReasonCode] = useState(of.reasons[0]?.code ?? 'other');
  const [text, setText] = useState('');
  // a choice that leads to a refusal must stay to be taken back
  const [questions, setQuestions] = useState<Question[]>([]);
  const saved = useUnsaved(text !== '' || quantities !== null || Object.keys(answers).length > 0);
  const navigate = useGo();
  const choose = (one: Way) => {
    setQuantities(null);
    setAnswers({});
    setQuestions([]);
    setChosen(nameOf(one));
    setSearch({ way: nameOf(one) }, { replace: true });
  };
  const lines = quantities
    ? Object.entries(quantities)
        .filter(([, quantity]) => !isZero(quantity))
        .map(([line, quantity]) => ({ line: Number(line), quantity }))
    : undefined;
  const reason = text.trim() || (of.reasons.find((one) => one.code === reasonCode)?.words ?? '');
  const planned = {
    kind: way.kind,
    number: way.number,
    intent: way.intent,
    lines,
    money: answers.money,
    withDispatch: answers.dispatch === 'yes',
    withdraw: answers.return === 'withdrawn',
    restockingPercent: answers.restocking || undefined,
    // what goods come back for decides what is charged for restocking; of the rest the plan knows nothing
    reasonCode: way.intent === 'take-goods-back' ? reasonCode : undefined,
    date,
  };
  const [asked] = useDebouncedValue(JSON.stringify(planned), 250);
  const body = JSON.parse(asked) as typeof planned;
  const plan = useQuery({
    queryKey: keyOf('plan', asked),
    queryFn: () => answer(client.POST('/api/unwind/plans', { body })),
    enabled: body.lines?.length !== 0,
    retry: false,
  });
  const carryOut = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/unwind/executions', {
          body: { ...planned, reasonCode, reason, fingerprint: present(plan.data, 'the plan').fingerprint },
          ...once(),
        }),
      ),
    onSuccess: (done) => {
      keepReason(text.trim());
      tell(`Done: ${done.words}.${done.waitsAt ? ` The rest waits ${WAITS[done.waitsAt] ?? ''}.` : ''}`);
      saved();
      navigate(`/trail/${way.kind}/${way.number}`);
    },
  });
  const settled = asked === JSON.stringify(planned);
  const ready = !!plan.data && !plan.error && !plan.isFetching && settled && !carryOut.isPending;
  useKeys({
    'ctrl+enter': ready ? () => carryOut.mutate() : undefined,
    ...Object.fromEntries(
      of.ways.slice(0, 9).map((one, index) => [String(index + 1), one.possible ? () => choose(one) : undefined]),
    ),
  });
  const now =
    plan.data && !plan.error ? plan.data.questions : plan.error?.code === 'deposit-attached' ? [DEPOSIT] : null;
  if (now && now !== questions && JSON.stringify(now) !== JSON.stringify(questions)) setQuestions(now);
  return (
    <div className="split columns-308px-rest">
      <section className="left unwind-left">
        <h1>Unwind</h1>
        <div className="muted">
          from {words(kind)} <Doc kind={kind} number={number} />, {of.customerName}
        </div>
        <fieldset className="plain-set">
          <legend>Action</legend>
          {of.ways.map((one, index) => (
            <label key={nameOf(one)} className={one.possible ? 'way' : 'way muted'}>
              <input type="radio" name="way" checked={one === way} onChange={() => choose(one)} />
              <span>
                {capital(one.words)} {one.possible && index < 9 && <kbd>{index + 1}</kbd>}
                {!one.possible && <div className="small">{SHORT[one.code ?? ''] ?? 'not possible'}</div>}
              </span>
            </label>
          ))}
        </fieldset>
        <HowMuch way={way} quantities={quantities} onQuantities={setQuantities} />
        {questions.map((question) => (
          <Asked
            key={question.code}
            question={question}
            value={answers[question.code]}
            usual={plan.data?.restockingPercent}
            onAnswer={(to) => setAnswers({ ...answers, [question.code]: to })}
          />
        ))}
        <Field of="reason-code" label="Reason">
          <Choice id="reason-code" value={reasonCode} onChange={setReasonCode}>
            {of.reasons.map((one) => (
              <option key={one.code} value={one.code}>
                {one.words}
              </option>
            ))}
          </Choice>
        </Field>
        <Field of="reason" label="Remark">
          <ReasonInput id="reason" value={text} onChange={setText} />
        </Field>
        <Field of="dated" label="Dated">
          <DayInput id="dated" value={date} onChange={setDate} />
        </Field>
      </section>
      <section className="right page">
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- it scrolls, and has nothing in it that takes the focus */}
        <div className="page-scroll" role="region" aria-label="Plan" tabIndex={0}>
          {plan.error ? (
            <Refused problem={plan.error} way={way} />
          ) : plan.data ? (
            <PlanSheet plan={plan.data} />
          ) : (
            <p className="muted">{lines?.length === 0 ? 'Enter quantities.' : 'Planning…'}</p>
          )}
          <Changed problem={carryOut.error} onAgain={() => plan.refetch()} />
        </div>
        <div className="bar">
          <button className="button first" disabled={!ready} onClick={() => carryOut.mutate()}>
            {plan.data && !plan.error ? capital(plan.data.words) : 'Nothing to carry out'} <kbd>Ctrl ↵</kbd>
          </button>
          <span className="muted small">If anything changes first, this is refused and the new plan is shown.</span>
        </div>
      </section>
    </div>
  );
}

/** Why a way is closed, in three words; the whole sentence stands where the plan would be. */
const SHORT: Record<string, string> = {
  'departed-goods': 'goods departed',
  'already-billed': 'it is billed',
  'already-credited': 'it is credited',
  'already-refunded': 'it is refunded',
  'already-returned': 'a return exists',
  'already-reversed': 'already reversed',
  'deposit-attached': 'a deposit is applied',
  'payment-attached': 'the money settles invoices',
  'more-than-open': 'nothing is open',
  'more-than-returnable': 'nothing can come back',
  'not-authorised': 'for another role',
  'goods-gone': 'goods are no longer in stock',
  'order-ended': 'it has ended',
  'period-closed': 'the period is closed',
};

function Refused({ problem, way }: { problem: Problem; way: Way }) {
  return (
    <>
      <div className="page-head">
        <h2 className="part">{capital(way.words)}: not possible</h2>
      </div>
      <ProblemNote problem={problem} />
    </>
  );
}

/** A plan that is no longer true is shown anew. */
function Changed({ problem, onAgain }: { problem: Problem | null; onAgain: () => void }) {
  if (!problem) return null;
  return (
    <div className="above-14">
      <ProblemNote problem={problem} />
      {problem.code === 'plan-changed' && (
        <button className="button" onClick={onAgain}>
          Show the new plan
        </button>
      )}
    </div>
  );
}

function HowMuch({
  way,
  quantities,
  onQuantities,
}: {
  way: Way;
  quantities: Record<number, string> | null;
  onQuantities: (to: Record<number, string> | null) => void;
}) {
  const byLine = way.intent === 'cancel-rest' || way.intent === 'take-goods-back';
  const lines = useQuery({
    queryKey: keyOf('unwind', 'lines', way.kind, way.number, way.intent),
    queryFn: () =>
      answer(
        client.GET('/api/unwind/lines', {
          params: { query: { kind: way.kind, number: way.number, intent: way.intent } },
        }),
      ),
    enabled: byLine,
  });
  if (!byLine) return null;
  return (
    <fieldset className="plain-set">
      <legend>Quantity</legend>
      <label className="way">
        <input type="radio" name="some" checked={!quantities} onChange={() => onQuantities(null)} />{' '}
        {way.intent === 'cancel-rest' ? 'All open quantities' : 'All returnable quantities'}
      </label>
      <label className="way">
        <input type="radio" name="some" checked={!!quantities} onChange={() => onQuantities({})} /> Some lines
      </label>
      {quantities &&
        lines.data?.map((line) => (
          <div className="pair aligned-center" key={line.line}>
            <span className="small">
              {line.line} {line.description} <span className="muted">of {trim(line.most)}</span>
            </span>
            <FigureInput
              width={62}
              label={`Quantity of line ${line.line}`}
              value={quantities[line.line] ?? ''}
              onChange={(to) => onQuantities({ ...quantities, [line.line]: to })}
            />
          </div>
        ))}
    </fieldset>
  );
}

function Asked({
  question,
  value,
  usual,
  onAnswer,
}: {
  question: Question;
  value: string | undefined;
  usual: string | undefined;
  onAnswer: (to: string) => void;
}) {
  if (question.answers.length === 0) {
    return (
      <fieldset className="plain-set">
        <legend>{question.words}</legend>
        <FigureInput
          inline
          width={60}
          label="Restocking fee, per cent"
          placeholder={usual ? trim(usual) : '0'}
          value={value ?? ''}
          onChange={onAnswer}
        />{' '}
        % of the value of the goods
      </fieldset>
    );
  }
  const chosen =
    value ??
    (question.code === 'dispatch'
      ? 'no'
      : question.answers[0]?.code === 'customer-credit'
        ? 'customer-credit'
        : undefined);
  return (
    <fieldset className="plain-set">
      <legend>{question.words}</legend>
      {question.answers.map((one) => (
        <label className="way" key={one.code}>
          <input type="radio" name={question.code} checked={chosen === one.code} onChange={() => onAnswer(one.code)} />{' '}
          <span>{one.words}</span>
        </label>
      ))}
    </fieldset>
  );
}
