import { useMutation, useQuery } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { queries } from '../../shared/api/queries';
import { figure, orDash } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useSession } from '../../shared/session';
import { ProblemNote, Ring, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { latestProofQuery } from './api';

function headline(statements: Schemas['StatementView'][]): string {
  const holding = statements.filter((statement) => statement.holds).length;
  if (statements.length === 0) return 'No proof has run yet';
  return holding === statements.length
    ? `All ${holding} statements hold`
    : `${holding} of ${statements.length} statements hold`;
}

/** The statements over the whole books: both figures, the difference, and what breaks one. */
export function ProofPage() {
  const { may } = useSession();
  const latest = useQuery(latestProofQuery);
  const run = useMutation({
    mutationFn: () => answer(client.POST('/api/proofs', once())),
    onSuccess: (result) => queries.setQueryData(latestProofQuery.queryKey, result),
  });
  const canRun = may('PROVE') && !run.isPending;
  useKeys({ r: canRun ? () => run.mutate() : undefined });
  if (!latest.data) return <Waiting query={latest} />;
  const proof = latest.data;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{headline(proof.statements)}</h1>
          <span className="muted">
            {proof.at &&
              `run ${new Date(proof.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })} by ${proof.by}, ${proof.millis} ms · `}
            <button className="plain" disabled={!canRun} onClick={() => run.mutate()}>
              {run.isPending ? 'running…' : 'Run again'} <kbd>R</kbd>
            </button>
          </span>
        </div>
        <ProblemNote problem={run.error} />
        <Statements of={proof.statements} />
      </div>
    </div>
  );
}

const figureOf = (value: string | null) => (value == null ? '' : figure(value));

/** A statement, or where it fails. */
type Told = { statement: Schemas['StatementView']; failure?: Schemas['StatementView']['failures'][number] };

export function Statements({ of }: { of: Schemas['StatementView'][] }) {
  return (
    <Table
      caption="Statements"
      of={of.flatMap((statement): Told[] => [
        { statement },
        ...statement.failures.map((failure) => ({ statement, failure })),
      ])}
      keyOf={({ statement }, index) => `${statement.no} ${index}`}
      drawn={({ failure }) =>
        failure && (
          <tr>
            <td />
            <td colSpan={5}>
              <div className="problem">{failure.sentence}</div>
            </td>
          </tr>
        )
      }
      columns={[
        { width: 'wide-20', cell: ({ statement }) => <Ring holds={statement.holds} /> },
        {
          head: 'Statement',
          className: ({ statement }) => (statement.holds ? '' : 'strong'),
          cell: ({ statement }) => statement.words,
        },
        { head: 'Documents', num: true, cell: ({ statement }) => figureOf(statement.documents) },
        { head: 'Ledger', num: true, cell: ({ statement }) => figureOf(statement.ledger) },
        {
          head: 'Difference',
          num: true,
          className: ({ statement }) => (statement.holds ? '' : 'error strong'),
          cell: ({ statement }) => (statement.difference == null ? '' : orDash(statement.difference)),
        },
        {
          head: 'Examined',
          num: true,
          className: 'muted',
          cell: ({ statement }) => (
            <>
              {figure(String(statement.examined))} {statement.lookedAt}
            </>
          ),
        },
      ]}
    />
  );
}
