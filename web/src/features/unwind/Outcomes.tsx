import { figure, isZero } from '../../shared/format';
import { Doc } from '../../shared/ui';

/** What would become of a document: in words, or why it can't be. */
type Outcome = { number: string; words: string; why: string | null; amount: string };

/** What would become of each of several documents; those of which nothing would come stand first. */
export function Outcomes({ kind, of }: { kind: string; of: Outcome[] }) {
  const rows = [...of.filter((one) => one.why), ...of.filter((one) => !one.why)];
  return (
    <div className="dialog-rows">
      <table className="rows">
        <caption className="unseen">What becomes of each</caption>
        <tbody>
          {rows.map((one) => (
            <tr key={one.number}>
              <td className="nowrap">
                <Doc kind={kind} number={one.number} />
              </td>
              <td className={one.why ? 'error' : 'muted'}>{one.why ?? one.words}</td>
              <td className="num">{isZero(one.amount) ? '–' : figure(one.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
