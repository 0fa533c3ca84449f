import { wholeOf } from '../../shared/figures';
import { InSentence } from './CheckRules';
import { ReasonCells } from './ReasonCells';
import type { Rules } from './api';

type Reason = Rules['returns']['reasons'][number];

const GRANTS: { field: 'noFee' | 'freight' | 'ahead'; head: string }[] = [
  { field: 'noFee', head: 'no restocking fee' },
  { field: 'freight', head: 'freight credited too' },
  { field: 'ahead', head: 'credited ahead' },
];

/** For how long goods may come back, why, and what the company grants for each reason. */
export function ReturnRules({
  rules,
  locked,
  onChange,
}: {
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const { returns } = rules;
  const set = (changed: Partial<Rules['returns']>) => onChange({ ...rules, returns: { ...returns, ...changed } });
  const setReason = (at: number, changed: Partial<Reason>) =>
    set({ reasons: returns.reasons.map((reason, index) => (index === at ? { ...reason, ...changed } : reason)) });
  return (
    <>
      <p>
        Return period:{' '}
        <InSentence
          label="Return period, days"
          value={returns.days}
          disabled={locked}
          onChange={(to) => set({ days: wholeOf(to) })}
        />{' '}
        days after departure (empty: no limit). Later returns need a controller or the finance lead, with a reason.
      </p>
      <table className="rows up-to-980">
        <caption className="unseen">Return reasons</caption>
        <thead>
          <tr>
            <th className="wide-170">Code</th>
            <th>Return reasons</th>
            {GRANTS.map((grant) => (
              <th key={grant.field} className="nowrap">
                {grant.head}
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          {returns.reasons.map((reason, at) => (
            <tr key={at}>
              <ReasonCells at={at} reason={reason} locked={locked} onChange={(changed) => setReason(at, changed)} />
              {GRANTS.map((grant) => (
                <td key={grant.field}>
                  <input
                    type="checkbox"
                    aria-label={`${reason.words}: ${grant.head}`}
                    checked={reason[grant.field]}
                    disabled={locked}
                    onChange={(event) => setReason(at, { [grant.field]: event.target.checked })}
                  />
                </td>
              ))}
              <td className="nowrap">
                {!locked && returns.reasons.length > 1 && (
                  <button
                    className="plain small"
                    onClick={() => set({ reasons: returns.reasons.filter((_, index) => index !== at) })}
                  >
                    Remove
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
          onClick={() =>
            set({ reasons: [...returns.reasons, { code: '', words: '', noFee: false, freight: false, ahead: false }] })
          }
        >
          + reason
        </button>
      )}
      <p className="muted small">
        The restocking fee is set under Unwinding. Freight is credited in proportion to the returned goods. Existing
        returns keep a removed reason.
      </p>
    </>
  );
}
