import { useQuery } from '@tanstack/react-query';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { shortDate } from '../../shared/format';

/** Each change of an order: who, when, and what became different. */
export function Versions({ number }: { number: string }) {
  const { data = [] } = useQuery({
    queryKey: keyOf('versions', number),
    queryFn: () => answer(client.GET('/api/orders/{number}/versions', { params: { path: { number } } })),
  });
  if (data.length === 0) return null;
  return (
    <section className="below-20">
      <h2>Versions</h2>
      {data.map((version) => (
        <div key={version.version} className="inset-2px-0">
          <div className="muted small">
            {version.version}, {shortDate(version.on)}, by {version.by}
          </div>
          {version.differences.map((difference) => (
            <div key={difference}>{difference}</div>
          ))}
        </div>
      ))}
    </section>
  );
}
