import type { Rules } from './api';
import { InSentence } from './CheckRules';
import { ReasonCells } from './ReasonCells';

type Reason = Rules['returns']['reasons'][number];

const GRANTS: { field: 'noFee' | 'freight' | 'ahead'; head: string }[] = [
  { field: 'noFee', head: 'no restocking fee' },
  { field: 'freight', head: 'freight credited too' },
  { field: 'ahead', head: 'credited before it comes' },
];

/** For how long goods may come back, why, and what the house grants for each reason. */
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
        Goods may come back for{' '}
        <InSentence
          label="Days for a return"
          value={returns.days}
          disabled={locked}
          onChange={(to) => set({ days: to === '' ? undefined : (to as never) })}
        />{' '}
        days after they left; left empty, always. Later, a controller or the finance lead may allow it with a reason.
      </p>
      <table className="rows" style={{ maxWidth: 980 }}>
        <thead>
          <tr>
            <th style={{ width: 170 }}>Code</th>
            <th>Why goods come back</th>
            {GRANTS.map((grant) => (
              <th key={grant.field} className="nowrap">
                {grant.head}
              </th>
            ))}
            <th />
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
          onClick={() =>
            set({ reasons: [...returns.reasons, { code: '', words: '', noFee: false, freight: false, ahead: false }] })
          }
        >
          + reason
        </button>
      )}
      <p className="muted small">
        The restocking fee itself stands under Undoing. Freight is credited in the proportion of the goods that came
        back. Returns for a reason that is taken out keep it.
      </p>
    </>
  );
}
