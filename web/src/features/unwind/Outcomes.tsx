import { figure, isZero } from '../../shared/format';
import { Doc } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';

/** What would become of a document: in words, or why it can't be. */
type Outcome = { number: string; words: string; why: string | null; amount: string };

/** What would become of each of several documents; those of which nothing would come stand first. */
export function Outcomes({ kind, of }: { kind: string; of: Outcome[] }) {
  const rows = [...of.filter((one) => one.why), ...of.filter((one) => !one.why)];
  return (
    <div className="dialog-rows">
      <Table
        caption="What becomes of each"
        of={rows}
        keyOf={(one) => one.number}
        isUnheaded
        columns={[
          { className: 'nowrap', cell: (one) => <Doc kind={kind} number={one.number} /> },
          { className: (one) => (one.why ? 'error' : 'muted'), cell: (one) => one.why ?? one.words },
          { num: true, cell: (one) => (isZero(one.amount) ? '–' : figure(one.amount)) },
        ]}
      />
    </div>
  );
}
