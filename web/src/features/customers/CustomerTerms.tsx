import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent, type ReactNode } from 'react';
import { answer, client, once, type Problem, type Schemas } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { wholeOf } from '../../shared/figures';
import { useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Choice, Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { useWritten } from '../../shared/written';
import { addressQuery, type CustomerSheet } from './api';

const SEVERITIES = ['STOP', 'CAUTION', 'OFF'] as const;

/** What is agreed with a customer: limit and block, PO policy, licences; each a command of its own. */
export function CustomerTerms({ customer }: { customer: CustomerSheet }) {
  const { may } = useSession();
  const locked = !may('KEEP_MASTER_DATA');
  const { limit, overdueOwn, overdueDays, overdueAbove, blocked, po, licences } = customer;
  // begun anew only when what it shows was changed: saving one leaves what is typed in the others
  const money = JSON.stringify([limit, overdueOwn, overdueDays, overdueAbove, blocked]);
  return (
    <>
      {locked && <p className="muted">The finance lead sets the terms.</p>}
      <Address customer={customer} locked={locked} />
      <Money key={money} customer={customer} locked={locked} />
      <Policy key={JSON.stringify(po)} customer={customer} locked={locked} />
      <Licences key={JSON.stringify(licences)} customer={customer} locked={locked} />
    </>
  );
}

function Part({
  title,
  action = 'Save terms',
  locked,
  busy,
  problem,
  onSave,
  children,
}: {
  title: string;
  action?: string;
  locked: boolean;
  busy: boolean;
  problem: Problem | null;
  onSave: () => void;
  children: ReactNode;
}) {
  const save = (event: FormEvent) => {
    event.preventDefault();
    onSave();
  };
  return (
    <form onSubmit={save} className="line-below inset-10px-0-14px">
      <h2 className="below-8">{title}</h2>
      <fieldset disabled={locked} style={{ border: 0, padding: 0, margin: 0 }}>
        {children}
      </fieldset>
      <ProblemNote problem={problem} />
      {!locked && (
        <button type="submit" className="button above-10" disabled={busy}>
          {action}
        </button>
      )}
    </form>
  );
}

const useAgree = <Given,>(send: (given: Given) => Promise<unknown>) =>
  useMutation({
    mutationFn: send,
    onSuccess: () => tell('Saved. Open orders were checked again.'),
  });

function Money({ customer, locked }: { customer: CustomerSheet; locked: boolean }) {
  const [limit, setLimit] = useState(customer.limit ?? '');
  const [own, setOwn] = useState(customer.overdueOwn);
  const [days, setDays] = useState(String(customer.overdueDays ?? ''));
  const [above, setAbove] = useState(customer.overdueAbove ?? '');
  const [blocked, setBlocked] = useState(customer.blocked ?? '');
  const [percent, setPercent] = useState(customer.earlyPercent ?? '');
  const [within, setWithin] = useState(String(customer.earlyDays ?? ''));
  useUnsaved(
    limit !== (customer.limit ?? '') ||
      own !== customer.overdueOwn ||
      days !== String(customer.overdueDays ?? '') ||
      above !== (customer.overdueAbove ?? '') ||
      percent !== (customer.earlyPercent ?? '') ||
      within !== String(customer.earlyDays ?? '') ||
      blocked !== (customer.blocked ?? ''),
  );
  const agree = useAgree(() =>
    answer(
      client.PUT('/api/customers/{code}/terms', {
        params: { path: { code: customer.code } },
        body: {
          version: customer.version,
          creditLimit: limit || undefined,
          // what is no number is sent as none, and the server says so
          overdue: own ? { days: wholeOf(days) ?? NaN, above: above || '0' } : undefined,
          earlyPayment: percent.trim() || within.trim() ? { percent, days: wholeOf(within) ?? NaN } : undefined,
          blocked: blocked.trim() || undefined,
        },
        ...once(),
      }),
    ),
  );
  return (
    <Part
      title="Credit"
      locked={locked}
      busy={agree.isPending}
      problem={agree.error}
      onSave={() => agree.mutate(undefined)}
    >
      <div className="fields columns-160px-1fr below-6">
        <Field of="limit" label={`Credit limit ${currency()} (empty: none)`}>
          <FigureInput id="limit" className="" value={limit} onChange={setLimit} />
        </Field>
        <Field of="blocked" label="Reason for blocking (empty: not blocked)">
          <TextLine id="blocked" maxLength={200} value={blocked} onChange={setBlocked} />
        </Field>
      </div>
      <label>
        <input type="checkbox" checked={own} onChange={(event) => setOwn(event.target.checked)} /> own limits for
        overdue invoices:{' '}
      </label>
      more than{' '}
      <FigureInput
        inline
        className="cell-input num in-sentence"
        width={44}
        label="Days past due"
        disabled={!own}
        value={days}
        onChange={setDays}
      />{' '}
      days past due and above {currency()}{' '}
      <FigureInput
        inline
        className="cell-input num in-sentence"
        width={80}
        label="Above"
        disabled={!own}
        value={above}
        onChange={setAbove}
      />
      <div className="above-8">
        early-payment discount (empty: none):{' '}
        <FigureInput
          inline
          className="cell-input num in-sentence"
          width={54}
          label="Early-payment discount, per cent"
          value={percent}
          onChange={setPercent}
        />{' '}
        % within{' '}
        <FigureInput
          inline
          className="cell-input num in-sentence"
          width={44}
          label="Early-payment discount, days"
          value={within}
          onChange={setWithin}
        />{' '}
        days of the invoice
      </div>
      <div className="muted small">
        Terms: {customer.termsDays} days net · VAT {customer.vatTreatment.toLowerCase().replace('_', ' ')}
        {customer.region && ` · region ${customer.region}`}
      </div>
    </Part>
  );
}

const PARTS = [
  ['contact', 'Person to call'],
  ['phone', 'Phone'],
  ['email', 'Mail'],
  ['street', 'Street'],
  ['postcode', 'Postcode'],
  ['town', 'Town'],
  ['country', 'Country (two letters)'],
  ['vatId', 'VAT number'],
] as const;

/** Whom to call, and what stands on paper. */
function Address({ customer, locked }: { customer: CustomerSheet; locked: boolean }) {
  const query = useQuery(addressQuery(customer.code));
  if (!query.data) return null;
  const key = JSON.stringify(query.data);
  return <WrittenAddress key={key} customer={customer} address={query.data} locked={locked} />;
}

function WrittenAddress({
  customer,
  address,
  locked,
}: {
  customer: CustomerSheet;
  address: Schemas['AddressView'];
  locked: boolean;
}) {
  const { contact, phone, email, street, postcode, town, country, vatId } = address;
  const written = useWritten({ contact, phone, email, street, postcode, town, country, vatId });
  useUnsaved(written.touched);
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.PUT('/api/customers/{code}/address', {
          params: { path: { code: customer.code } },
          body: {
            version: customer.version,
            address: written.values,
            depositPercent: address.depositPercent ?? undefined,
          },
          ...once(),
        }),
      ),
    onSuccess: () => tell('Saved.'),
    onError: written.refused,
  });
  return (
    <Part
      title="Person to call, address"
      action="Save address"
      locked={locked}
      busy={keep.isPending}
      problem={keep.error}
      onSave={() => keep.mutate()}
    >
      <div className="fields columns-x-4-1fr">
        {PARTS.map(([name, label]) => (
          <Field key={name} of={`address-${name}`} label={label} error={written.wrong(name)}>
            <TextLine id={`address-${name}`} {...written.of(name)} />
          </Field>
        ))}
      </div>
    </Part>
  );
}

function Policy({ customer, locked }: { customer: CustomerSheet; locked: boolean }) {
  const [own, setOwn] = useState(customer.po.own);
  const [start] = useState({ ...customer.po, ceiling: customer.po.ceiling ?? '' });
  const [po, setPo] = useState(start);
  useUnsaved(own !== customer.po.own || po !== start);
  const agree = useAgree(() =>
    answer(
      client.PUT('/api/customers/{code}/po-policy', {
        params: { path: { code: customer.code } },
        body: {
          version: customer.version,
          own: own
            ? {
                required: po.required,
                same: po.same,
                alike: po.alike,
                near: po.near,
                ceiling: po.ceiling || undefined,
                barred: po.barred,
              }
            : undefined,
        },
        ...once(),
      }),
    ),
  );
  return (
    <Part
      title="Duplicate PO numbers"
      locked={locked}
      busy={agree.isPending}
      problem={agree.error}
      onSave={() => agree.mutate(undefined)}
    >
      <label>
        <input type="checkbox" checked={own} onChange={(event) => setOwn(event.target.checked)} /> own policy instead of
        the company’s
      </label>
      {own && (
        <div className="fields columns-x-5-1fr above-8 below-0">
          {(['same', 'alike', 'near'] as const).map((kind) => (
            <Field of={`po-${kind}`} label={kind === 'near' ? 'near match' : kind} key={kind}>
              <Choice id={`po-${kind}`} value={po[kind]} onChange={(to) => setPo({ ...po, [kind]: to })}>
                {SEVERITIES.filter((one) => kind !== 'near' || one !== 'STOP').map((one) => (
                  <option key={one} value={one}>
                    {one.toLowerCase()}
                  </option>
                ))}
              </Choice>
            </Field>
          ))}
          <Field of="ceiling" label={`one PO covers up to ${currency()}`}>
            <FigureInput
              id="ceiling"
              className=""
              value={po.ceiling}
              onChange={(ceiling) => setPo({ ...po, ceiling })}
            />
          </Field>
          <Field of="barred" label="if the user may not waive it">
            <Choice id="barred" value={po.barred} onChange={(to) => setPo({ ...po, barred: to })}>
              <option value="HOLD">hold the order</option>
              <option value="REFUSE">refuse</option>
            </Choice>
          </Field>
          <label className="spans-1-1">
            <input
              type="checkbox"
              checked={po.required}
              onChange={(event) => setPo({ ...po, required: event.target.checked })}
            />{' '}
            every order needs a PO number
          </label>
        </div>
      )}
    </Part>
  );
}

function Licences({ customer, locked }: { customer: CustomerSheet; locked: boolean }) {
  const [before] = useState(customer.licences.map(({ licenceClass, number }) => ({ licenceClass, number })));
  const [rows, setRows] = useState(before);
  useUnsaved(rows !== before);
  const set = (at: number, changed: Partial<(typeof rows)[number]>) =>
    setRows(rows.map((row, index) => (index === at ? { ...row, ...changed } : row)));
  const agree = useAgree(() =>
    answer(
      client.PUT('/api/customers/{code}/licences', {
        params: { path: { code: customer.code } },
        body: { version: customer.version, licences: rows.filter((row) => row.licenceClass && row.number) },
        ...once(),
      }),
    ),
  );
  return (
    <Part
      title="Licences"
      locked={locked}
      busy={agree.isPending}
      problem={agree.error}
      onSave={() => agree.mutate(undefined)}
    >
      {rows.map((row, index) => (
        <div key={index} className="row gap-12 up-to-480 inset-2px-0">
          <TextLine
            className="cell-input"
            aria-label={`Licence class ${index + 1}`}
            placeholder="class"
            value={row.licenceClass}
            onChange={(to) => set(index, { licenceClass: to })}
          />
          <TextLine
            className="cell-input mono"
            aria-label={`Licence number ${index + 1}`}
            placeholder="number"
            value={row.number}
            onChange={(to) => set(index, { number: to })}
          />
          {!locked && (
            <button
              type="button"
              className="plain small nowrap"
              onClick={() => setRows(rows.filter((_, at) => at !== index))}
            >
              remove
            </button>
          )}
        </div>
      ))}
      {rows.length === 0 && <div className="muted">None.</div>}
      {!locked && (
        <button
          type="button"
          className="plain small"
          onClick={() => setRows([...rows, { licenceClass: '', number: '' }])}
        >
          + licence
        </button>
      )}
    </Part>
  );
}
