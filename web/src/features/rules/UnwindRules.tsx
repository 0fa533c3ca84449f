import { currency } from '../../shared/currency';
import { Table } from '../../shared/ui/Table';
import { InSentence } from './CheckRules';
import { LimitInSentence } from './LimitInSentence';
import type { Rules } from './api';
import { reasonColumns, removing } from './reasonColumns';

type Reason = NonNullable<Rules['unwind']>['reasons'][number];

/** The reasons that one chooses from when something is undone, what may go back to customers, and what is kept for restocking. */
export function UnwindRules({
  rules,
  locked,
  onChange,
}: {
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const { unwind } = rules;
  const set = (changed: Partial<typeof unwind>) => onChange({ ...rules, unwind: { ...unwind, ...changed } });
  const setReason = (at: number, changed: Partial<Reason>) =>
    set({ reasons: unwind.reasons.map((reason, index) => (index === at ? { ...reason, ...changed } : reason)) });
  return (
    <div className="two">
      <section>
        <Table
          caption="Reasons for unwinding"
          className="up-to-620"
          of={unwind.reasons}
          keyOf={(_, at) => at}
          columns={[
            ...reasonColumns<Reason>('wide-190', locked, setReason),
            removing(unwind.reasons, locked, (reasons) => set({ reasons })),
          ]}
        />
        {!locked && (
          <button
            className="plain small"
            onClick={() => set({ reasons: [...unwind.reasons, { code: '', words: '' }] })}
          >
            + reason
          </button>
        )}
      </section>
      <section>
        <h2>Refunds and returned goods</h2>
        <p>
          In 30 days together, receivables refund to a customer up to {currency()}{' '}
          <LimitInSentence of="refund" who="RECEIVABLES" rules={rules} locked={locked} onChange={onChange} /> and a
          controller up to {currency()}{' '}
          <LimitInSentence of="refund" who="CONTROLLER" rules={rules} locked={locked} onChange={onChange} />; above that
          the finance lead decides (empty: no limit). Whoever recorded the money does not refund it.
        </p>
        <p>
          Of the value of returned goods,{' '}
          <InSentence
            label="Restocking fee"
            width={44}
            value={unwind.restockingPercent}
            disabled={locked}
            onChange={(to) => set({ restockingPercent: to || '0' })}
          />{' '}
          % are retained as a restocking fee, unless the plan says otherwise.
        </p>
        <p>
          <label>
            <input
              type="checkbox"
              checked={unwind.refundsThroughService ?? false}
              disabled={locked}
              onChange={(event) => set({ refundsThroughService: event.target.checked })}
            />{' '}
            Refunds are paid by the payment service, otherwise manually.
          </label>
        </p>
        <p className="muted small">Existing documents keep a removed reason.</p>
      </section>
    </div>
  );
}
