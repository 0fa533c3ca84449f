import { words } from '../../shared/format';
import { InSentence } from './CheckRules';
import type { Rules } from './api';

const SAID = {
  refund: 'Refund limit',
  goodsForNothing: 'Limit of goods for nothing',
  badDebt: 'Limit of bad debt',
} as const;

/** The limit of a role inside a sentence; left empty there is none. */
export function LimitInSentence({
  of,
  who,
  rules,
  locked,
  onChange,
}: {
  of: keyof typeof SAID;
  who: 'CLERK' | 'RECEIVABLES' | 'CONTROLLER';
  rules: Rules;
  locked: boolean;
  onChange: (to: Rules) => void;
}) {
  const limits = rules.limits[of] ?? [];
  const others = limits.filter((one) => one.role !== who);
  return (
    <InSentence
      label={`${SAID[of]}, ${words(who)}`}
      width={90}
      value={limits.find((one) => one.role === who)?.amount}
      disabled={locked}
      onChange={(to) =>
        onChange({
          ...rules,
          limits: { ...rules.limits, [of]: to.trim() ? [...others, { role: who, amount: to }] : others },
        })
      }
    />
  );
}
