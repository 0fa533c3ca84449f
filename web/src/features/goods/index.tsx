import { Modal } from '@mantine/core';
import { infiniteQueryOptions, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { answer, client, once, Problem } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';
import { date, nearness, orDash, shortDate, trim } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { may, useSession } from '../../shared/session';
import { Doc, Empty, More, Tabs, Waiting } from '../../shared/ui';
import { refreshAll } from '../review';

const toStageQuery = infiniteQueryOptions({
  queryKey: ['goods', 'to-stage'],
  queryFn: ({ pageParam }) => answer(client.GET('/api/goods/to-stage', { params: { query: { after: pageParam } } })),
  ...pages,
});

const dispatchesQuery = (departed: boolean) =>
  infiniteQueryOptions({
    queryKey: ['goods', 'dispatches', departed],
    queryFn: ({ pageParam }) => answer(client.GET('/api/goods/dispatches', { params: { query: { departed, after: pageParam } } })),
    ...pages,
  });

/** Goods on their way out: to stage, staged, departed. */
export function GoodsPage() {
  const { tab = 'to-stage' } = useParams();
  return (
    <div className="page">
      <div className="page-scroll" style={{ paddingBottom: 0, flex: '0 0 auto' }}>
        <Tabs
          of={[
            { to: '/goods', label: 'To stage' },
            { to: '/goods/staged', label: 'Staged' },
            { to: '/goods/departed', label: 'Departed' },
          ]}
        />
      </div>
      {tab === 'to-stage' ? <ToStage /> : tab === 'staged' ? <Staged /> : <Departed />}
    </div>
  );
}

/** What became of each document of a bulk run. */
type LogLine = { subject: string; outcome: string; ok: boolean };

/** Does one thing after another, each whole or not at all, and keeps the log. */
function useBulk<T>(act: (row: T) => Promise<string>, name: (row: T) => string) {
  const [log, setLog] = useState<LogLine[] | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async (rows: T[]) => {
    setBusy(true);
    const lines: LogLine[] = [];
    for (const row of rows) {
      try {
        lines.push({ subject: name(row), outcome: await act(row), ok: true });
      } catch (problem) {
        lines.push({ subject: name(row), outcome: (problem as Problem).message, ok: false });
      }
      setLog([...lines]);
    }
    setBusy(false);
    refreshAll();
  };
  return { run, busy, log, close: () => setLog(null) };
}

function BulkLog({ log, busy, onClose }: { log: LogLine[] | null; busy: boolean; onClose: () => void }) {
  const failed = log?.filter((line) => !line.ok).length ?? 0;
  return (
    <Modal opened={log !== null} onClose={onClose} size="lg" title={<b>{busy ? 'Working…' : `${(log?.length ?? 0) - failed} done, ${failed} not`}</b>}>
      {log?.map((line) => (
        <div className="pair" key={line.subject} style={{ justifyContent: 'flex-start' }}>
          <span className="mono" style={{ width: 90 }}>
            {line.subject}
          </span>
          <span className={line.ok ? '' : 'error'}>{line.outcome}</span>
        </div>
      ))}
    </Modal>
  );
}

/** Which rows of a list are selected, with the keys for it. */
function useSelection<T>(rows: T[], keyOf: (row: T) => string, onOpen: (row: T) => void) {
  const [at, setAt] = useState(0);
  const [selected, setSelected] = useState<Set<string>>(new Set());
  const toggle = (row: T) => {
    const changed = new Set(selected);
    if (!changed.delete(keyOf(row))) changed.add(keyOf(row));
    setSelected(changed);
  };
  useKeys({
    j: () => setAt(Math.min(at + 1, rows.length - 1)),
    k: () => setAt(Math.max(at - 1, 0)),
    x: () => rows[at] && toggle(rows[at]),
    enter: () => rows[at] && onOpen(rows[at]),
  });
  const chosen = rows.filter((row) => selected.has(keyOf(row)));
  return { at, toggle, has: (row: T) => selected.has(keyOf(row)), chosen, all: () => setSelected(new Set(chosen.length === rows.length ? [] : rows.map(keyOf))) };
}

function ToStage() {
  const { role, today } = useSession();
  const navigate = useNavigate();
  const list = useInfiniteQuery(toStageQuery);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(rows, (row) => row.order, (row) => navigate(`/orders/${row.order}`));
  const bulk = useBulk(
    async (row: (typeof rows)[number]) =>
      `staged as ${(await answer(client.POST('/api/dispatches', { body: { order: row.order, version: row.version }, ...once() }))).number}`,
    (row) => row.order,
  );
  if (!list.data) return <Waiting query={list} />;
  return (
    <>
      <div className="page-scroll" style={{ paddingTop: 0 }}>
        <div className="page-head">
          <h1>{rows.length === 0 ? 'Nothing to stage' : `${rows.length}${list.hasNextPage ? '+' : ''} orders have goods to stage`}</h1>
        </div>
        <table className="rows">
          <thead>
            <tr>
              <th style={{ width: 24 }}>
                <input type="checkbox" aria-label="Select all" checked={rows.length > 0 && selection.chosen.length === rows.length} onChange={selection.all} />
              </th>
              <th>Order</th>
              <th>Customer</th>
              <th>Their PO</th>
              <th>Wanted</th>
              <th className="num">Lines</th>
              <th className="num">Reserved</th>
              <th className="num">Waits</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.order} className={index === selection.at ? 'at' : ''}>
                <td>
                  <input type="checkbox" aria-label={`Select ${row.order}`} checked={selection.has(row)} onChange={() => selection.toggle(row)} />
                </td>
                <td>
                  <Link className="mono" to={`/orders/${row.order}`}>
                    {row.order}
                  </Link>
                </td>
                <td>{row.customerName}</td>
                <td className="mono">{row.po}</td>
                <td className="nowrap">{nearness(row.requestedOn, today).replace('wanted ', '')}</td>
                <td className="num">{row.lines}</td>
                <td className="num">{trim(row.reserved)}</td>
                <td className="num">{orDash(row.waiting)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>Goods are reserved when an order is cleared and there is stock for it.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!may(role, 'moveGoods') || bulk.busy || selection.chosen.length === 0} onClick={() => bulk.run(selection.chosen)}>
          Stage {selection.chosen.length || ''} selected
        </button>
        <span className="muted small">
          <kbd>X</kbd> selects · stages all that is reserved
        </span>
      </div>
      <BulkLog log={bulk.log} busy={bulk.busy} onClose={bulk.close} />
    </>
  );
}

function Staged() {
  const { role } = useSession();
  const navigate = useNavigate();
  const list = useInfiniteQuery(dispatchesQuery(false));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection(rows, (row) => row.number, (row) => navigate(`/orders/${row.order}`));
  const request = (row: (typeof rows)[number]) => ({ params: { path: { number: row.number } }, body: { version: row.version }, ...once() });
  const depart = useBulk(async (row: (typeof rows)[number]) => `left, ${(await answer(client.POST('/api/dispatches/{number}/departure', request(row)))).lines.length} lines`, (row) => row.number);
  const voiding = useBulk(
    async (row: (typeof rows)[number]) => {
      await answer(client.POST('/api/dispatches/{number}/voiding', request(row)));
      return 'voided, the goods are reserved again';
    },
    (row) => row.number,
  );
  if (!list.data) return <Waiting query={list} />;
  const idle = may(role, 'moveGoods') && !depart.busy && !voiding.busy && selection.chosen.length > 0;
  return (
    <>
      <div className="page-scroll" style={{ paddingTop: 0 }}>
        <div className="page-head">
          <h1>{rows.length === 0 ? 'Nothing is staged' : `${rows.length}${list.hasNextPage ? '+' : ''} dispatches are staged, still in the building`}</h1>
        </div>
        <table className="rows">
          <thead>
            <tr>
              <th style={{ width: 24 }}>
                <input type="checkbox" aria-label="Select all" checked={rows.length > 0 && selection.chosen.length === rows.length} onChange={selection.all} />
              </th>
              <th>Dispatch</th>
              <th>Order</th>
              <th>Customer</th>
              <th>Store</th>
              <th>Staged</th>
              <th>Wanted</th>
              <th className="num">Lines</th>
              <th className="num">Quantity</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.number} className={index === selection.at ? 'at' : ''}>
                <td>
                  <input type="checkbox" aria-label={`Select ${row.number}`} checked={selection.has(row)} onChange={() => selection.toggle(row)} />
                </td>
                <td>
                  <Doc kind="DISPATCH" number={row.number} />
                </td>
                <td>
                  <Doc kind="ORDER" number={row.order} />
                </td>
                <td>{row.customerName}</td>
                <td>{row.site}</td>
                <td className="nowrap">{shortDate(row.on)}</td>
                <td className="nowrap">{shortDate(row.requestedOn)}</td>
                <td className="num">{row.lines}</td>
                <td className="num">{trim(row.quantity)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>What is staged waits here to be sent off.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!idle} onClick={() => depart.run(selection.chosen)}>
          Send off {selection.chosen.length || ''} selected
        </button>
        <button className="button" disabled={!idle} onClick={() => voiding.run(selection.chosen)}>
          Void
        </button>
        <span className="muted small">What has been sent off can only come back.</span>
      </div>
      <BulkLog log={depart.log} busy={depart.busy} onClose={depart.close} />
      <BulkLog log={voiding.log} busy={voiding.busy} onClose={voiding.close} />
    </>
  );
}

function Departed() {
  const list = useInfiniteQuery(dispatchesQuery(true));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page-scroll" style={{ paddingTop: 0 }}>
      <table className="rows">
        <thead>
          <tr>
            <th>Dispatch</th>
            <th>Order</th>
            <th>Customer</th>
            <th>Their PO</th>
            <th>Store</th>
            <th>Left</th>
            <th className="num">Lines</th>
            <th className="num">Quantity</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.number}>
              <td>
                <Doc kind="DISPATCH" number={row.number} />
              </td>
              <td>
                <Doc kind="ORDER" number={row.order} />
              </td>
              <td>{row.customerName}</td>
              <td className="mono">{row.po}</td>
              <td>{row.site}</td>
              <td className="nowrap">{date(row.on)}</td>
              <td className="num">{row.lines}</td>
              <td className="num">{trim(row.quantity)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>Nothing has left yet.</Empty>}
      <More query={list} />
    </div>
  );
}
