import { useDebouncedValue } from '@mantine/hooks';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { figure, isZero, plain, plainPrice, price, trim } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { Doc, keepReason, ProblemNote, ReasonInput, tell, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook } from '../masterdata';
import { invoiceQuery } from './api';

type Line = { line: number; quantity: string; price: string; discount: string };

/** Credits an invoice in full and bills it again with other data, in one go: what it comes to is shown before. */
export function CorrectPage() {
  const { number = '' } = useParams();
  const query = useQuery(invoiceQuery(number));
  if (!query.data) return <Waiting query={query} />;
  return <Correct key={number} invoice={query.data} />;
}

function Correct({ invoice }: { invoice: Schemas['InvoiceView'] }) {
  const navigate = useGo();
  const [customer, setCustomer] = useState({ code: invoice.customer, name: invoice.customerName });
  const [po, setPo] = useState('');
  const [address, setAddress] = useState({ name: '', street: '', postcode: '', town: '', country: '' });
  const [lines, setLines] = useState<Line[]>(() =>
    invoice.lines.map((line) => ({
      line: line.no,
      quantity: plain(line.quantity),
      price: plainPrice(line.price),
      discount: plain(line.discount),
    })),
  );
  const [reason, setReason] = useState('');
  const [before] = useState({ customer, address, lines });
  const saved = useUnsaved(
    reason !== '' || po !== '' || customer !== before.customer || address !== before.address || lines !== before.lines,
  );
  const other = customer.code !== invoice.customer;
  const body = {
    customer: other ? customer.code : undefined,
    po: po.trim() || undefined,
    shipTo: address.name.trim() ? address : undefined,
    lines: lines
      .filter((line) => !isZero(line.quantity))
      .map((line) => ({
        line: line.line,
        quantity: line.quantity,
        price: line.price || undefined,
        discount: line.discount || undefined,
      })),
  };
  const [asked] = useDebouncedValue(JSON.stringify(body), 400);
  const path = { path: { number: invoice.number } };
  const preview = useQuery({
    queryKey: keyOf('correction', invoice.number, asked),
    queryFn: () =>
      answer(client.POST('/api/invoices/{number}/corrections/previews', { params: path, body: JSON.parse(asked) })),
    placeholderData: (before) => before,
    retry: false,
  });
  const correct = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/invoices/{number}/corrections', {
          params: path,
          body: { ...body, reason: reason.trim() },
          ...once(),
        }),
      ),
    onSuccess: (done) => {
      keepReason(reason.trim());
      tell(
        done.invoice
          ? `Credited with ${done.creditNote}, rebilled with ${done.invoice}.`
          : `Credited with ${done.creditNote}; order ${done.order} is ${done.state.toLowerCase().replaceAll('_', ' ')} and to be billed when it is cleared.`,
      );
      saved();
      navigate(done.invoice ? `/billing/invoice/${done.invoice}` : `/orders/${done.order}`);
    },
  });
  const ready =
    reason.trim() !== '' &&
    preview.data !== undefined &&
    !preview.error &&
    asked === JSON.stringify(body) &&
    !correct.isPending;
  useKeys({ 'ctrl+enter': ready ? () => correct.mutate() : undefined });
  const set = (at: number, changed: Partial<Line>) =>
    setLines(lines.map((line, index) => (index === at ? { ...line, ...changed } : line)));
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Credit invoice <Doc kind="INVOICE" number={invoice.number} /> in full and rebill
          </h1>
        </div>
        <p className="muted">
          The goods and their cost stay as they are; the new order ships nothing. The amount paid stays as credit of{' '}
          {invoice.customerName}.
        </p>
        <div className="fields columns-280px-200px-1fr below-14">
          <Field of="Bill to" label="Bill to">
            <CustomerLook
              label="Bill to"
              shown={customer.name}
              onTake={(hit) => setCustomer({ code: hit.code, name: hit.name })}
            />
          </Field>
          <Field of="correct-po" label={other ? 'Customer PO' : 'Customer PO, if different'}>
            <TextLine id="correct-po" maxLength={60} value={po} onChange={setPo} />
          </Field>
          <Field of="correct-name" label="Ship-to address, if different">
            <div className="grid columns-2fr-2fr-1fr-1-4fr-60px gap-8">
              {(['name', 'street', 'postcode', 'town', 'country'] as const).map((field) => (
                <TextLine
                  key={field}
                  id={field === 'name' ? 'correct-name' : undefined}
                  aria-label={`Ship-to: ${field}`}
                  placeholder={field}
                  maxLength={field === 'country' ? 2 : 100}
                  value={address[field]}
                  onChange={(to) => setAddress({ ...address, [field]: to })}
                />
              ))}
            </div>
          </Field>
        </div>
        <Table
          caption="Lines to bill again"
          of={invoice.lines}
          keyOf={(line) => line.no}
          columns={[
            { head: 'Line', num: true, cell: (line) => line.no },
            {
              head: 'Item',
              cell: (line) => (
                <>
                  {line.description} <span className="mono muted small nowrap">{line.item}</span>
                </>
              ),
            },
            {
              head: 'Billed',
              num: true,
              className: 'nowrap',
              cell: (line) => (
                <>
                  {trim(line.quantity)} × {price(line.price)}
                </>
              ),
            },
            { head: <>Net {currency()}</>, num: true, cell: (line) => figure(line.net) },
            {
              head: 'New quantity',
              num: true,
              className: 'wide-96',
              cell: (line, at) => (
                <FigureInput
                  label={`New quantity, line ${line.no}`}
                  value={lines[at]?.quantity ?? ''}
                  onChange={(to) => set(at, { quantity: to })}
                />
              ),
            },
            {
              head: <>New price {currency()}</>,
              num: true,
              className: 'wide-110',
              cell: (line, at) => (
                <FigureInput
                  label={`New price, line ${line.no}`}
                  value={lines[at]?.price ?? ''}
                  onChange={(to) => set(at, { price: to })}
                />
              ),
            },
            {
              head: 'Discount %',
              num: true,
              className: 'wide-70',
              cell: (line, at) => (
                <FigureInput
                  label={`New discount, line ${line.no}`}
                  value={lines[at]?.discount ?? ''}
                  onChange={(to) => set(at, { discount: to })}
                />
              ),
            },
          ]}
        />
        {preview.data && !preview.error && (
          <p className="situation above-14">
            {currency()} {figure(preview.data.credited)} are credited to {invoice.customerName}, {currency()}{' '}
            {figure(preview.data.billed)} billed to {customer.name}
            {preview.data.invoice
              ? '.'
              : `; the order will be ${preview.data.state.toLowerCase().replaceAll('_', ' ')}, so its invoice waits.`}
          </p>
        )}
        <ProblemNote problem={preview.error ?? correct.error} />
      </div>
      <form
        className="bar"
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) correct.mutate();
        }}
      >
        <Field of="correct-reason" label="Reason (printed on the credit note)" className="wide-380">
          <ReasonInput id="correct-reason" value={reason} onChange={setReason} />
        </Field>
        <button type="submit" className="button first" disabled={!ready}>
          Credit and rebill <kbd>Ctrl ↵</kbd>
        </button>
      </form>
    </div>
  );
}
