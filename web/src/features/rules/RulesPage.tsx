import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date } from '../../shared/format';
import { useSession } from '../../shared/session';
import { keepReason, OfTab, ProblemNote, ReasonInput, Tabs, tell, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { Field } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { ApprovalRules } from './ApprovalRules';
import { CheckRules } from './CheckRules';
import { EntryRules } from './EntryRules';
import { LimitInSentence } from './LimitInSentence';
import { PoRules } from './PoRules';
import { ReceivablesRules } from './ReceivablesRules';
import { ReturnRules } from './ReturnRules';
import { UnwindRules } from './UnwindRules';
import { publishRules, previewQuery, rulesQuery, type Rules } from './api';

const TABS = [
  { to: '/rules', label: 'Checks' },
  { to: '/rules/po', label: 'PO numbers' },
  { to: '/rules/approval', label: 'Approval' },
  { to: '/rules/entry', label: 'Order entry' },
  { to: '/rules/unwinding', label: 'Unwinding' },
  { to: '/rules/returns', label: 'Returns' },
  { to: '/rules/receivables', label: 'Receivables' },
  { to: '/rules/changes', label: 'Changes' },
];

/** The company's own rules: what they are, what they do to the orders in the books, and what a change would do. */
export function RulesPage() {
  const { tab = 'checks' } = useParams();
  const { may } = useSession();
  const query = useQuery(rulesQuery);
  const [edited, setEdited] = useState<Rules | null>(null);
  useUnsaved(edited !== null, '/rules');
  const locked = !may('KEEP_MASTER_DATA');
  const rules = edited ?? query.data;
  const [asked] = useDebouncedValue(rules, 500);
  const preview = useQuery({ ...previewQuery(locked ? undefined : asked), placeholderData: (before) => before });
  if (!rules) return <Waiting query={query} />;
  const counts = preview.data?.checks ?? [];
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Rules</h1>
          <span className="muted">{locked ? 'The finance lead publishes the rules.' : `Version ${rules.version}`}</span>
        </div>
        <Tabs of={TABS} />
        <OfTab
          tab={tab}
          of={{
            checks: <CheckRules rules={rules} counts={counts} locked={locked} onChange={setEdited} />,
            po: (
              <PoRules
                rules={rules}
                count={counts.find((one) => one.check === 'duplicate-po')}
                locked={locked}
                onChange={setEdited}
              />
            ),
            entry: <EntryRules rules={rules} locked={locked} onChange={setEdited} />,
            unwinding: <UnwindRules rules={rules} locked={locked} onChange={setEdited} />,
            returns: <ReturnRules rules={rules} locked={locked} onChange={setEdited} />,
            receivables: <ReceivablesRules rules={rules} locked={locked} onChange={setEdited} />,
            approval: (
              <>
                <ApprovalRules locked={locked} />
                <GoodsForNothing rules={rules} locked={locked} onChange={setEdited} />
              </>
            ),
            changes: <Changes of={rules.changes} />,
          }}
        />
        {edited && <WouldDo preview={preview.data} />}
        <ProblemNote problem={edited ? preview.error : null} />
      </div>
      {edited && (
        <LayBar
          rules={edited}
          ready={!preview.isFetching && !preview.error && asked === edited}
          onDone={() => setEdited(null)}
        />
      )}
    </div>
  );
}

function GoodsForNothing({
  rules,
  locked,
  onChange,
}: {
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  return (
    <>
      <h2 className="above-26">Goods for nothing</h2>
      <p>
        Lines at no charge need approval where their value at list price is above {currency()}{' '}
        <LimitInSentence of="goodsForNothing" who="CLERK" rules={rules} locked={locked} onChange={onChange} /> on a
        clerk’s order or {currency()}{' '}
        <LimitInSentence of="goodsForNothing" who="CONTROLLER" rules={rules} locked={locked} onChange={onChange} /> on a
        controller’s (empty: no limit). Whoever approves has the limit for it; the finance lead has none.
      </p>
    </>
  );
}

/** What changed rules would hold and let go, order by order. */
function WouldDo({ preview }: { preview: Schemas['Preview'] | undefined }) {
  if (!preview) return null;
  const list = (title: string, count: number, told: Schemas['Told'][]) =>
    told.length > 0 && (
      <section>
        <h2>{title}</h2>
        {told.map((one) => (
          <div key={one.number}>
            <Link className="mono" to={`/orders/${one.number}`}>
              {one.number}
            </Link>{' '}
            {one.customerName} <span className="muted">{one.reasons}</span>
          </div>
        ))}
        {count > told.length && <div className="muted">and {count - told.length} more</div>}
      </section>
    );
  return (
    <>
      <p className="situation above-16">
        {preview.sentence}
        {preview.lookedAt < preview.open && ` The latest ${preview.lookedAt} of ${preview.open} were simulated.`}
      </p>
      <div className="grid columns-1fr-1fr gap-28">
        {list('Would be held today', preview.holdCount, preview.holds)}
        {list('Would be released', preview.releaseCount, preview.releases)}
      </div>
    </>
  );
}

function LayBar({ rules, ready, onDone }: { rules: Rules; ready: boolean; onDone: () => void }) {
  const [reason, setReason] = useState('');
  const publish = useMutation({
    mutationFn: () => publishRules(rules, reason.trim()),
    onSuccess: () => {
      keepReason(reason.trim());
      tell('Rules published. Held orders were checked again; cleared orders stay cleared.');
      onDone();
    },
  });
  return (
    <>
      <ProblemNote problem={publish.error} />
      <form
        className="bar"
        onSubmit={(event) => {
          event.preventDefault();
          if (reason.trim() && ready && !publish.isPending) publish.mutate();
        }}
      >
        <Field of="rules-reason" label="Reason for the change" className="wide-340">
          <ReasonInput id="rules-reason" value={reason} onChange={setReason} />
        </Field>
        <button type="submit" className="button first" disabled={!reason.trim() || !ready || publish.isPending}>
          Publish rules <kbd>↵</kbd>
        </button>
        <button type="button" className="button" onClick={onDone}>
          Reset
        </button>
      </form>
    </>
  );
}

function Changes({ of }: { of: Rules['changes'] }) {
  return (
    <Table
      caption="Changes of the rules"
      of={of}
      keyOf={(change) => change.version}
      className="up-to-720"
      columns={[
        { head: 'Version', num: true, cell: (change) => change.version },
        { head: 'On', className: 'nowrap', cell: (change) => date(change.on) },
        { head: 'By', cell: (change) => change.by },
        { head: 'Why', cell: (change) => change.reason },
      ]}
    />
  );
}
