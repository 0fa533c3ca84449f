import { useMutation, useQuery } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { queries } from '../../shared/api/queries';
import { figure, isZero } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useSession } from '../../shared/session';
import { ProblemNote, Ring, Waiting } from '../../shared/ui';
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

export function Statements({ of }: { of: Schemas['StatementView'][] }) {
  return (
    <table className="rows">
      <caption className="unseen">Statements</caption>
      <thead>
        <tr>
          <td className="wide-20" />
          <th>Statement</th>
          <th className="num">Documents</th>
          <th className="num">Ledger</th>
          <th className="num">Difference</th>
          <th className="num">Examined</th>
        </tr>
      </thead>
      <tbody>
        {of.map((statement) => (
          <StatementRows key={statement.no} statement={statement} />
        ))}
      </tbody>
    </table>
  );
}

function StatementRows({ statement }: { statement: Schemas['StatementView'] }) {
  const figureOf = (value: string | null) => (value == null ? '' : figure(value));
  return (
    <>
      <tr>
        <td>
          <Ring holds={statement.holds} />
        </td>
        <td className={statement.holds ? '' : 'strong'}>{statement.words}</td>
        <td className="num">{figureOf(statement.documents)}</td>
        <td className="num">{figureOf(statement.ledger)}</td>
        <td className={`num${statement.holds ? '' : ' error strong'}`}>
          {statement.difference == null ? '' : isZero(statement.difference) ? '–' : figure(statement.difference)}
        </td>
        <td className="num muted">
          {figure(String(statement.examined))} {statement.lookedAt}
        </td>
      </tr>
      {statement.failures.map((failure, index) => (
        <tr key={index}>
          <td />
          <td colSpan={5}>
            <div className="problem">{failure.sentence}</div>
          </td>
        </tr>
      ))}
    </>
  );
}
