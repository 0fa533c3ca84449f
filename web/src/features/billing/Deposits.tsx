import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, once, type Problem } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, ProblemNote, ReasonInput, tell, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { TakeBackBar } from '../unwind';
import { BillingTabs } from './BillingTabs';
import { WaysOut } from './WaysOut';
import { depositQuery } from './api';

const TAKEN_BACK = { kind: 'DEPOSIT', intent: 'take-back-deposit', one: 'deposit', many: 'deposits' } as const;

/** All deposits; those that are unapplied unless somebody sees others first. */
export function Deposits() {
  return (
    <DataList
      name="deposits"
      first="unapplied"
      top={<BillingTabs />}
      place={(row) => `/billing/deposit/${row.opens}`}
      cell={(column, row) => (column === 'left' ? orDash(textIn(row, 'left')) : undefined)}
      selected={(chosen, on) => <TakeBackBar of={TAKEN_BACK} chosen={chosen} {...on} />}
    />
  );
}

const USES = {
  APPLIED: 'applied to',
  GIVEN_BACK: 'refunded as',
  MOVED: 'moved as',
  CREDITED: 'moved to customer credit',
  REVERSED: 'taken back',
};

/** The same where it was undone again: its amount is below zero. */
const UNDONE: typeof USES = {
  ...USES,
  APPLIED: 'unapplied from',
  GIVEN_BACK: 'did not reach the customer:',
  MOVED: 'unapplied again from',
};

/** A deposit, what became of it, and what can be done with the rest. */
export function DepositPage() {
  const { number = '' } = useParams();
  const { may } = useSession();
  const query = useQuery(depositQuery(number));
  const [amount, setAmount] = useState('');
  const [target, setTarget] = useState('');
  const [reason, setReason] = useState('');
  useUnsaved([amount, target, reason].some((one) => one !== ''));
  const deposit = query.data;
  const version = deposit?.version ?? 0;
  const path = { params: { path: { number } } };
  const some = amount || undefined;
  const act = useMutation<string, Problem, 'apply' | 'move' | 'credit' | 'refund'>({
    mutationFn: async (what) => {
      switch (what) {
        case 'apply':
          await answer(
            client.POST('/api/deposits/{number}/applications', {
              ...path,
              body: { version, invoice: target.trim(), amount: amount || present(deposit, 'the deposit').unapplied },
              ...once(),
            }),
          );
          return `Applied to invoice ${target.trim()}.`;
        case 'move': {
          const on = await answer(
            client.POST('/api/deposits/{number}/moves', {
              ...path,
              body: { version, order: target.trim(), amount: some, reason },
              ...once(),
            }),
          );
          return `Moved as deposit ${on.number} for order ${on.order}.`;
        }
        case 'credit':
          await answer(
            client.POST('/api/deposits/{number}/credits', {
              ...path,
              body: { version, amount: some, reason },
              ...once(),
            }),
          );
          return 'Moved to customer credit.';
        case 'refund': {
          const given = await answer(
            client.POST('/api/refunds', { body: { of: number, version, amount: some, reason }, ...once() }),
          );
          return `${currency()} ${figure(given.amount)} refunded as ${given.number}.`;
        }
      }
    },
    onSuccess: (told) => {
      tell(told);
      setAmount('');
      setTarget('');
      setReason('');
    },
  });
  if (!deposit) return <Waiting query={query} />;
  const idle = may('BILL') && !act.isPending;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Deposit <span className="mono">{deposit.number}</span> ·{' '}
            <Link to={`/customers/${encodeURIComponent(deposit.customer)}`}>{deposit.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind="DEPOSIT" number={deposit.number} />
          </span>
        </div>
        <p className="situation">
          {currency()} {figure(deposit.amount)}{' '}
          {deposit.movedFrom ? `moved here from ${deposit.movedFrom}` : 'received'} on {date(deposit.on)} for order{' '}
          <Doc kind="ORDER" number={deposit.order} />;{' '}
          {deposit.uses.some((use) => use.kind === 'REVERSED')
            ? 'taken back.'
            : isZero(deposit.unapplied)
              ? 'fully applied.'
              : `${currency()} ${figure(deposit.unapplied)} are unapplied.`}
        </p>
        <Table
          caption="What the deposit was applied to"
          of={deposit.uses}
          keyOf={(_, index) => index}
          className="up-to-620"
          isUnheaded
          columns={[
            { className: 'nowrap', cell: (use) => date(use.on) },
            {
              cell: (use) => (
                <>
                  {use.amount.startsWith('-') ? UNDONE[use.kind] : USES[use.kind]}{' '}
                  {use.kind !== 'CREDITED' &&
                    use.kind !== 'REVERSED' &&
                    (use.documentKind === 'INVOICE' ? (
                      <Link className="mono" to={`/billing/invoice/${use.documentNumber}`}>
                        {use.documentNumber}
                      </Link>
                    ) : (
                      <Doc kind={use.documentKind} number={use.documentNumber} />
                    ))}
                </>
              ),
            },
            { num: true, cell: (use) => figure(use.amount) },
          ]}
        />
        {!isZero(deposit.unapplied) && may('BILL') && (
          <>
            <h2 className="above-20">Use the unapplied amount</h2>
            <div className="fields columns-130px-190px-1fr up-to-780">
              <Field of="deposit-amount" label={`Amount ${currency()} (empty: all)`}>
                <FigureInput
                  id="deposit-amount"
                  label="Amount"
                  placeholder={deposit.unapplied}
                  value={amount}
                  onChange={setAmount}
                />
              </Field>
              <Field of="deposit-target" label="Invoice or other order">
                <TextLine id="deposit-target" className="mono" maxLength={40} value={target} onChange={setTarget} />
              </Field>
              <Field of="deposit-reason" label="Reason">
                <ReasonInput id="deposit-reason" value={reason} onChange={setReason} />
              </Field>
            </div>
          </>
        )}
        <ProblemNote problem={act.error} />
      </div>
      {!isZero(deposit.unapplied) && (
        <div className="bar">
          <button
            className="button"
            disabled={!idle || !/^\d{4}-\d+$/.test(target.trim())}
            onClick={() => act.mutate('apply')}
          >
            Apply to the invoice
          </button>
          <button
            className="button"
            disabled={!idle || !target.trim().startsWith('SO-')}
            onClick={() => act.mutate('move')}
          >
            Move to the order
          </button>
          <button className="button" disabled={!idle} onClick={() => act.mutate('credit')}>
            Move to customer credit
          </button>
          <button className="button" disabled={!idle || !reason.trim()} onClick={() => act.mutate('refund')}>
            Refund
          </button>
        </div>
      )}
    </div>
  );
}
