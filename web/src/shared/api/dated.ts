import { useSyncExternalStore } from 'react';

/** Commands whose documents carry a date of their own; the addresses as the interface publishes them. */
export const DATED: ReadonlySet<string> = new Set([
  'POST /api/batches/billings',
  'POST /api/batches/departures',
  'POST /api/credit-allocations',
  'POST /api/credit-notes',
  'POST /api/deposits',
  'POST /api/deposits/{number}/applications',
  'POST /api/deposits/{number}/credits',
  'POST /api/deposits/{number}/moves',
  'POST /api/direct-invoices',
  'POST /api/dispatches/{number}/departure',
  'POST /api/invoices',
  'POST /api/invoices/{number}/corrections',
  'POST /api/invoices/{number}/corrections/previews',
  'POST /api/invoices/{number}/write-offs',
  'POST /api/ledger/manual-entries',
  'POST /api/orders',
  'POST /api/orders/started',
  'PUT /api/orders/{number}',
  'POST /api/payments',
  'POST /api/payments/{number}/reversal',
  'POST /api/payments/{number}/unallocations',
  'POST /api/refunds',
  'POST /api/returns/{number}/inspections',
  'POST /api/returns/{number}/receipts',
  'POST /api/sales-agreements',
  'PUT /api/sales-agreements/{number}',
  'POST /api/sales-agreements/{number}/orders',
  'POST /api/stock-counts',
  'POST /api/stock-receipts',
  'POST /api/unexpected-goods',
  'POST /api/unexpected-goods/{number}/admissions',
  'POST /api/unexpected-goods/{number}/turnings-away',
  'POST /api/unwind/executions',
  'POST /api/unwind/plans',
]);

type Dated = { date: string | null; reason: string };

let dated: Dated = { date: null, reason: '' };
const told = new Set<() => void>();

/** The date that documents carry from now on, and why where it is far back; null for today. */
export const dateDocuments = (to: Dated) => {
  dated = to;
  told.forEach((tell) => {
    tell();
  });
};

export const useDated = (): Dated =>
  useSyncExternalStore(
    (tell) => {
      told.add(tell);
      return () => {
        told.delete(tell);
      };
    },
    () => dated,
  );

/** What a command says, with the date that its documents are to carry. */
export function withDate(command: string, body: string): string {
  if (!DATED.has(command) || dated.date === null) return body;
  const said = JSON.parse(body) as Record<string, unknown>;
  return JSON.stringify({
    ...said,
    date: said.date ?? dated.date,
    reason: said.reason ?? (dated.reason || undefined),
  });
}
