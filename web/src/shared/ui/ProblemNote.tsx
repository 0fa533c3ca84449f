import type { Problem } from '../api/http';

/** Why something was refused, or could not be answered. */
export function ProblemNote({ problem }: { problem: Problem | null | undefined }) {
  if (!problem) return null;
  return (
    <div className="problem" role="alert">
      <div>{problem.message}</div>
      {problem.others.map((other) => (
        <div key={other}>{other}</div>
      ))}
      {problem.instead && <div className="muted">{problem.instead}</div>}
    </div>
  );
}
