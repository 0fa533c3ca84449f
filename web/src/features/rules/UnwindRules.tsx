import type { Rules } from './api';
import { InSentence } from './CheckRules';
import { ReasonCells } from './ReasonCells';

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
        <table className="rows" style={{ maxWidth: 620 }}>
          <thead>
            <tr>
              <th style={{ width: 190 }}>Code</th>
              <th>Reason</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {unwind.reasons.map((reason, at) => (
              <tr key={at}>
                <ReasonCells at={at} reason={reason} locked={locked} onChange={(changed) => setReason(at, changed)} />
                <td className="nowrap">
                  {!locked && unwind.reasons.length > 1 && (
                    <button
                      className="plain small"
                      onClick={() => set({ reasons: unwind.reasons.filter((_, index) => index !== at) })}
                    >
                      Take out
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
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
        <h2>Money and goods that go back</h2>
        <p>
          Above €{' '}
          <InSentence
            label="Refund limit"
            width={90}
            value={unwind.refundLimit}
            disabled={locked}
            onChange={(to) => set({ refundLimit: to || undefined })}
          />{' '}
          the finance lead decides whether money goes back; left empty, whoever undoes it does.
        </p>
        <p>
          Of what goods are worth that come back,{' '}
          <InSentence
            label="Restocking fee"
            width={44}
            value={unwind.restockingPercent}
            disabled={locked}
            onChange={(to) => set({ restockingPercent: to || '0' })}
          />{' '}
          % are kept for restocking, unless the plan says otherwise.
        </p>
        <p>
          <label>
            <input
              type="checkbox"
              checked={unwind.refundsThroughService ?? false}
              disabled={locked}
              onChange={(event) => set({ refundsThroughService: event.target.checked })}
            />{' '}
            Refunds are paid out by the payment service; otherwise by hand.
          </label>
        </p>
        <p className="muted small">What was undone with a reason that is taken out here keeps it.</p>
      </section>
    </div>
  );
}
