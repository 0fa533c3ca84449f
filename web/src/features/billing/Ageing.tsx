import { useMutation } from '@tanstack/react-query';
import { answer, client, once } from '../../shared/api/http';
import { orDash, Words } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useAsked } from '../../shared/list/address';
import type { Row } from '../../shared/list/api';
import { useSession } from '../../shared/session';
import { Mark, tellProblem } from '../../shared/ui';
import { BatchLog, LogsLink } from '../batch';
import { BillingTabs } from './BillingTabs';

const AS_OF = /^asOf:at:(\d{4}-\d{2}-\d{2})$/;

/** The customer's statement, to the day on which the list stands. */
function useStatement() {
  const [{ filter }] = useAsked();
  const day = filter.flatMap((one) => AS_OF.exec(one)?.[1] ?? [])[0];
  return (row: Row) => `/customers/${encodeURIComponent(row.opens)}/statement${day ? `?show=all&to=${day}` : ''}`;
}

const AMOUNTS = ['notDue', 'upTo30', 'upTo60', 'upTo90', 'older', 'disputed', 'pastDue'];

function shown(column: string, row: Row) {
  const text = textIn(row, column);
  if (AMOUNTS.includes(column)) return orDash(text);
  if (column === 'reminded') return text === 'NONE' ? '–' : Words(text);
  if (column === 'noMail') return text === 'YES' ? <span className="muted">missing</span> : <></>;
  if (column !== 'reminder') return undefined;
  return text === 'NONE' ? (
    <span className="muted">none yet</span>
  ) : (
    <span className="nowrap">
      <Mark of={text === 'FINAL' ? 'stop' : 'caution'} />
      {`${Words(text)} reminder`}
    </span>
  );
}

/** Receivables by age as of any day, customer by customer, beside what the ledger says of that day. */
export function Ageing() {
  const statement = useStatement();
  return <DataList name="ageing" top={<BillingTabs />} place={statement} cell={shown} />;
}

/** Customers with invoices past due, how late, and the reminder that each is due. */
export function Overdue() {
  const { may } = useSession();
  const statement = useStatement();
  const remind = useMutation({
    mutationFn: (customers: string[]) =>
      answer(client.POST('/api/batches/reminders', { body: { customers }, ...once() })),
    onError: tellProblem,
  });
  return (
    <>
      <DataList
        name="ageing"
        first="past-due"
        isAbout
        top={<BillingTabs />}
        place={statement}
        cell={shown}
        selected={(chosen, { none }) => {
          const due = chosen.filter((row) => textIn(row, 'reminder') !== 'NONE').map((row) => row.opens);
          return (
            <div className="bar">
              <button
                className="button first"
                disabled={!may('BILL') || remind.isPending || due.length === 0}
                onClick={() => remind.mutate(due, { onSuccess: none })}
              >
                Send {due.length || ''} {due.length === 1 ? 'reminder' : 'reminders'}
              </button>
              <span className="muted small">
                <kbd>X</kbd> selects · 7, 21 and 35 days after the due date, at least ten days apart · they go to the
                Outbox with the list of invoices attached
              </span>
              <span className="gap" />
              <LogsLink of="REMINDERS" />
            </div>
          );
        }}
      />
      <BatchLog batch={remind.data} onClose={remind.reset} />
    </>
  );
}
