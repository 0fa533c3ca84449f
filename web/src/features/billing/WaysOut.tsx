import { Link, useNavigate } from 'react-router';
import { useKeys } from '../../shared/keys';

/** From a document to its trail and to its undoing, each with a key. */
export function WaysOut({ kind, number }: { kind: string; number: string }) {
  const navigate = useNavigate();
  const trail = `/trail/${kind}/${number}`;
  const unwind = `/unwind/${kind}/${number}`;
  useKeys({ t: () => navigate(trail), u: () => navigate(unwind) });
  return (
    <>
      <Link to={trail}>
        Trail <kbd>T</kbd>
      </Link>{' '}
      ·{' '}
      <Link to={unwind}>
        Unwind <kbd>U</kbd>
      </Link>
    </>
  );
}
