import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../../shared/api/http';
import { currency } from '../../shared/currency';
import { withEmptyLast } from '../../shared/entryRows';
import { figure, trim } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { ProblemNote, tell } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { RemoveLine, Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook, ItemLook } from '../masterdata';

type Line = { item: string; description: string; list: string; free: string; quantity: string; price: string };
const NO_LINE: Line = { item: '', description: '', list: '', free: '', quantity: '', price: '' };

/** An invoice without an earlier order: order, dispatch and invoice are made in one step, or none of them. */
export function DirectInvoice() {
  const { may } = useSession();
  const navigate = useGo();
  const [customer, setCustomer] = useState({ code: '', name: '' });
  const [po, setPo] = useState('');
  const [text, setText] = useState('');
  const [lines, setLines] = useState<Line[]>([NO_LINE]);
  const saved = useUnsaved(customer.code !== '' || po !== '' || text !== '' || lines.length > 1);
  const written = lines.filter((line) => line.item);
  const bill = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/direct-invoices', {
          body: {
            customer: customer.code,
            po,
            text,
            lines: written.map((line) => ({
              item: line.item,
              quantity: line.quantity || '0',
              price: line.price || undefined,
            })),
          },
          ...once(),
        }),
      ),
    onSuccess: (invoice) => {
      tell(`Invoice ${invoice.number}, ${currency()} ${figure(invoice.gross)}, with its order and dispatch.`);
      saved();
      navigate(`/billing/invoice/${invoice.number}`);
    },
  });
  const complete = customer.code !== '' && written.length > 0 && written.every((line) => line.quantity);
  const post = () => complete && !bill.isPending && may('BILL') && bill.mutate();
  useKeys({ 'ctrl+enter': post });
  const set = (at: number, change: Partial<Line>) => {
    const changed = lines.map((line, index) => (index === at ? { ...line, ...change } : line));
    setLines(withEmptyLast(changed, (line) => line.item !== '', NO_LINE));
  };
  return (
    <>
      <div className="page-scroll inset-top-0">
        <div className="page-head">
          <h1>Direct invoice</h1>
          <span className="muted">creates order, dispatch and invoice in one step</span>
        </div>
        <div className="fields">
          <Field of="direct-customer" label="Customer">
            <CustomerLook
              id="direct-customer"
              label="Customer"
              autoFocus
              shown={customer.name}
              onTake={(hit) => setCustomer({ code: hit.code, name: hit.name })}
            />
          </Field>
          <Field of="direct-po" label="Customer PO">
            <TextLine id="direct-po" className="mono" maxLength={120} value={po} onChange={setPo} />
          </Field>
          <Field of="direct-text" label="Text above the lines" className="spans-span-2">
            <TextLine id="direct-text" maxLength={2000} value={text} onChange={setText} />
          </Field>
        </div>
        <Table
          caption="Lines"
          of={lines}
          keyOf={(_, at) => at}
          className="inset"
          columns={[
            { head: 'Line', num: true, width: 'wide-30', className: 'muted', cell: (_, at) => at + 1 },
            {
              head: 'Item',
              cell: (line, at) => (
                <ItemLook
                  label={`Item of line ${at + 1}`}
                  shown={line.item ? `${line.item} ${line.description}` : ''}
                  onTake={(hit) =>
                    set(at, { item: hit.code, description: hit.name, list: hit.price ?? undefined, free: hit.free })
                  }
                />
              ),
            },
            {
              head: 'Quantity',
              width: 'num wide-90',
              cell: (line, at) => (
                <FigureInput
                  label={`Quantity of line ${at + 1}`}
                  value={line.quantity}
                  onChange={(to) => set(at, { quantity: to })}
                />
              ),
            },
            {
              head: 'Free',
              num: true,
              width: 'wide-80',
              className: 'muted',
              cell: (line) => line.item && trim(line.free),
            },
            {
              head: <>Price {currency()}</>,
              width: 'num wide-110',
              cell: (line, at) => (
                <FigureInput
                  label={`Price of line ${at + 1}`}
                  placeholder={line.item ? 'list' : ''}
                  value={line.price}
                  onChange={(to) => set(at, { price: to })}
                />
              ),
            },
            {
              width: 'wide-16',
              cell: (line, at) =>
                line.item && <RemoveLine at={at} onRemove={() => setLines(lines.filter((_, index) => index !== at))} />,
            },
          ]}
        />
        <ProblemNote problem={bill.error} />
      </div>
      <div className="bar">
        <button className="button first" disabled={!complete || bill.isPending || !may('BILL')} onClick={post}>
          Post the invoice <kbd>Ctrl ↵</kbd>
        </button>
        <span className="muted small">
          Goods leave the first store at once. Nothing is posted if the order would be held or goods are missing.
        </span>
      </div>
    </>
  );
}
