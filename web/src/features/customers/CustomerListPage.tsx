import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { figure } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { Empty, Mark, More, SearchLine, Waiting } from '../../shared/ui';
import { customersQuery } from './api';

/** All customers by name, with where they stand. */
export function CustomerListPage() {
  const [search, setSearch] = useSearchParams();
  const q = search.get('q') ?? '';
  const list = useInfiniteQuery({ ...customersQuery(q), placeholderData: (before) => before });
  const navigate = useNavigate();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const open = (code: string) => navigate(`/customers/${encodeURIComponent(code)}`);
  const [at] = useCursor(rows, (row) => open(row.code));
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Customers</h1>
          <SearchLine label="Name, town or code" value={q} onChange={(to) => setSearch(to ? { q: to } : {}, { replace: true })} />
        </div>
        <table className="rows">
          <thead>
            <tr>
              <th>Customer</th>
              <th>Town</th>
              <th>Code</th>
              <th className="num">Exposure €</th>
              <th className="num">Limit €</th>
              <th className="num">Orders open</th>
              <th className="num">held</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.code} className={`clickable${index === at ? ' at' : ''}`} onClick={() => open(row.code)}>
                <td style={{ overflowWrap: 'anywhere' }}>
                  <Link to={`/customers/${encodeURIComponent(row.code)}`}>{row.name}</Link>
                </td>
                <td>{row.town}</td>
                <td className="mono">{row.code}</td>
                <td className="num">{figure(row.exposure)}</td>
                <td className="num">{row.limit == null ? 'none' : figure(row.limit)}</td>
                <td className="num">{row.open || '–'}</td>
                <td className="num">{row.held || '–'}</td>
                <td className="nowrap">
                  {row.blocked && (
                    <>
                      <Mark of="stop" />
                      blocked
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>{q ? 'No customer is called like that.' : 'There is no customer yet.'}</Empty>}
        <More query={list} />
      </div>
    </div>
  );
}
