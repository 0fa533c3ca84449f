import { Link } from 'react-router';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';

const RETURNABLE: Record<string, string> = { ORDER: 'order', DISPATCH: 'dispatch', INVOICE: 'invoice' };

/** Where a return of a document's goods is authorised; null where it has none. */
export const returnOf = (kind: string, number: string) =>
  kind in RETURNABLE ? `/returns/new?${RETURNABLE[kind]}=${encodeURIComponent(number)}` : null;

/** The way to a return, where there is one. */
export function GoodsBack({ to }: { to: string | null }) {
  if (!to) return null;
  return (
    <>
      {' · '}
      <Link to={to}>
        Return <kbd>B</kbd>
      </Link>
    </>
  );
}

/** From a document to its trail, to Unwind and to a return of its goods, each with a key. */
export function WaysOut({ kind, number }: { kind: string; number: string }) {
  const navigate = useGo();
  const trail = `/trail/${kind}/${number}`;
  const unwind = `/unwind/${kind}/${number}`;
  const back = returnOf(kind, number);
  useKeys({
    t: () => navigate(trail),
    u: () => navigate(unwind),
    b: back ? () => navigate(back) : undefined,
  });
  return (
    <>
      <Link to={trail}>
        Trail <kbd>T</kbd>
      </Link>
      {' · '}
      <Link to={unwind}>
        Unwind <kbd>U</kbd>
      </Link>
      <GoodsBack to={back} />
    </>
  );
}
