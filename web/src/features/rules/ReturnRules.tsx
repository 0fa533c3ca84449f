import { wholeOf } from '../../shared/figures';
import { type Column, Table } from '../../shared/ui/Table';
import { InSentence } from './CheckRules';
import type { Rules } from './api';
import { reasonColumns, removing } from './reasonColumns';

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
      <Table
        caption="Return reasons"
        className="up-to-980"
        of={returns.reasons}
        keyOf={(_, at) => at}
        columns={[
          ...reasonColumns<Reason>('wide-170', locked, setReason),
          ...GRANTS.map((grant): Column<Reason> => ({
            head: <span className="nowrap">{grant.head}</span>,
            cell: (reason, at) => (
              <input
                type="checkbox"
                aria-label={`${reason.words}: ${grant.head}`}
                checked={reason[grant.field]}
                disabled={locked}
                onChange={(event) => setReason(at, { [grant.field]: event.target.checked })}
              />
            ),
          })),
          removing(returns.reasons, locked, (reasons) => set({ reasons })),
        ]}
      />
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
