import { currency } from '../../shared/currency';
import { InSentence } from './CheckRules';
import { LimitInSentence } from './LimitInSentence';
import type { Rules } from './api';

/** What is written off by whom, and what a dispute keeps from being dunned. */
export function ReceivablesRules({
  rules,
  locked,
  onChange,
}: {
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const set = (changed: Partial<Rules['receivables']>) =>
    onChange({ ...rules, receivables: { ...rules.receivables, ...changed } });
  return (
    <section className="up-to-620">
      <h2>Write-offs</h2>
      <p>
        At most {currency()}{' '}
        <InSentence
          label="Small difference"
          width={60}
          value={rules.receivables.smallDifference}
          disabled={locked}
          onChange={(to) => set({ smallDifference: to || '0' })}
        />{' '}
        of an invoice are written off as a small difference. As bad debt, in 30 days together, a controller writes off
        for a customer up to {currency()}{' '}
        <LimitInSentence of="badDebt" who="CONTROLLER" rules={rules} locked={locked} onChange={onChange} />; above that
        the finance lead decides (empty: no limit).
      </p>
      <p>
        <label>
          <input
            type="checkbox"
            checked={rules.receivables.badDebtRelief}
            disabled={locked}
            onChange={(event) => set({ badDebtRelief: event.target.checked })}
          />{' '}
          The VAT of bad debt is claimed back.
        </label>
      </p>
      <h2>Disputes</h2>
      <p>
        <label>
          <input
            type="checkbox"
            checked={rules.receivables.disputesAside}
            disabled={locked}
            onChange={(event) => set({ disputesAside: event.target.checked })}
          />{' '}
          What is disputed of an invoice does not count as overdue.
        </label>
      </p>
    </section>
  );
}
