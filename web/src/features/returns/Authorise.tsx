import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { answer, client, once } from '../../shared/api/http';
import { date, isZero, plain, trim } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, ProblemNote, SearchLine, tell, Waiting } from '../../shared/ui';
import { FigureInput } from '../../shared/ui/FigureInput';
import { Table } from '../../shared/ui/Table';
import { Field, TextLine } from '../../shared/ui/fields';
import { useUnsaved } from '../../shared/unsaved';
import { CustomerLook } from '../masterdata';
import { ReasonChoice, rulesQuery } from '../rules';
import { returnableQuery, type Which } from './api';

/** Lets goods come back: a customer's lines of one or several documents, with a reason. */
export function AuthorisePage() {
  const [search, setSearch] = useSearchParams();
  const { may } = useSession();
  const navigate = useGo();
  const which: Which = {
    customer: search.get('customer') ?? undefined,
    order: search.get('order') ?? undefined,
    dispatch: search.get('dispatch') ?? undefined,
    invoice: search.get('invoice') ?? undefined,
    item: search.get('item') ?? undefined,
  };
  const query = useInfiniteQuery(returnableQuery(which));
  const reasons = useQuery(rulesQuery).data?.returns.reasons ?? [];
  const [quantities, setQuantities] = useState<Record<string, string>>({});
  const [reason, setReason] = useState('');
  const [remark, setRemark] = useState('');
  const [exception, setException] = useState('');
  const saved = useUnsaved(remark !== '' || Object.values(quantities).some((one) => one !== ''));
  const head = query.data?.pages[0];
  const rows = query.data?.pages.flatMap((page) => page.rows) ?? [];
  const keyOf = (row: (typeof rows)[number]) => `${row.dispatch}/${row.line}`;
  const chosen = Object.entries(quantities).filter(([, quantity]) => !isZero(quantity));
  const late = rows.filter((row) => row.daysLate > 0 && !isZero(quantities[keyOf(row)]));
  const narrowed = which.order ?? which.dispatch ?? which.invoice;
  const authorise = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/returns', {
          body: {
            // from an invoice its own goods come back, from anywhere else the dispatch's
            lines: chosen.map(([key, quantity]) => {
              const [dispatch, line] = key.split('/');
              const bill = which.invoice && rows.find((row) => keyOf(row) === key)?.billed[0];
              return bill
                ? { invoice: bill.invoice, line: bill.line, quantity }
                : { dispatch, line: Number(line), quantity };
            }),
            reason,
            remark: remark.trim() || undefined,
            exception: late.length > 0 && may('DECIDE') ? exception.trim() || undefined : undefined,
          },
          ...once(),
        }),
      ),
    onSuccess: (goods) => {
      tell(`Return ${goods.number} is authorised. Print or mail its slip here.`);
      saved();
      navigate(`/returns/return/${goods.number}`);
    },
  });
  const ready = chosen.length > 0 && reason !== '' && !authorise.isPending;
  useKeys({ 'ctrl+enter': ready ? () => authorise.mutate() : undefined });
  const set = (changed: Which) =>
    setSearch(Object.fromEntries(Object.entries({ ...which, ...changed }).filter(([, value]) => value)), {
      replace: true,
    });
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>Authorise a return{head ? ` for ${head.customerName}` : ''}</h1>
          {narrowed && head && (
            <button
              className="plain"
              onClick={() =>
                set({ order: undefined, dispatch: undefined, invoice: undefined, customer: head.customer })
              }
            >
              All shipments to the customer, not only {narrowed}
            </button>
          )}
        </div>
        <div className="fields columns-280px-240px-1fr below-14">
          <Field of="Customer" label="Customer">
            <CustomerLook
              label="Customer"
              autoFocus={!head}
              shown={head?.customerName ?? ''}
              onTake={(hit) => {
                setQuantities({});
                setSearch({ customer: hit.code }, { replace: true });
              }}
            />
          </Field>
          <ReasonChoice id="return-reason" label="Reason" value={reason} of={reasons} onChange={setReason} />
          <Field of="return-remark" label="Customer’s remark">
            <TextLine id="return-remark" maxLength={1500} value={remark} onChange={setRemark} />
          </Field>
        </div>
        {!which.customer && !narrowed && (
          <Empty>Choose the customer to list the shipped goods that may come back.</Empty>
        )}
        {(which.customer !== undefined || narrowed) && !query.data && <Waiting query={query} />}
        {head && (
          <>
            <div className="filters">
              <SearchLine
                key={head.customer}
                label="Item, by name or code"
                value={which.item ?? ''}
                onChange={(item) => set({ item: item || undefined })}
              />
              {head.days && <span className="muted">Goods may be returned for {head.days} days.</span>}
            </div>
            {rows.length === 0 && (
              <Empty>
                {query.hasNextPage
                  ? 'Nothing on the latest dispatches; show more for earlier ones.'
                  : 'Nothing can be returned: all shipped goods are too old or back already.'}
              </Empty>
            )}
            {rows.length > 0 && (
              <Table
                caption="Goods that can come back"
                of={rows}
                keyOf={(row) => keyOf(row)}
                columns={[
                  {
                    head: 'Departed',
                    className: 'nowrap',
                    cell: (row) => (
                      <>
                        {date(row.left)}
                        {row.daysLate > 0 && (
                          <div className="small error">
                            {row.daysLate === 1 ? '1 day too late' : `${row.daysLate} days too late`}
                          </div>
                        )}
                      </>
                    ),
                  },
                  { head: 'Dispatch', cell: (row) => <Doc kind="DISPATCH" number={row.dispatch} /> },
                  {
                    head: 'Order, customer PO',
                    cell: (row) => (
                      <>
                        <Doc kind="ORDER" number={row.order} /> <span className="muted small">{row.po}</span>
                      </>
                    ),
                  },
                  {
                    head: 'Item',
                    cell: (row) => (
                      <>
                        {row.description} <span className="mono muted small nowrap">{row.item}</span>
                      </>
                    ),
                  },
                  {
                    head: 'Billed with',
                    cell: (row) => (
                      <>
                        {row.billed.length === 0 && <span className="muted">not billed</span>}
                        {row.billed.map((bill) => (
                          <div key={`${bill.invoice} ${bill.line}`} className="nowrap">
                            <Doc kind="INVOICE" number={bill.invoice} />
                          </div>
                        ))}
                      </>
                    ),
                  },
                  { head: 'Shipped', num: true, cell: (row) => trim(row.dispatched) },
                  {
                    head: 'Returnable',
                    num: true,
                    cell: (row) => (
                      <button
                        className="plain"
                        title="All"
                        onClick={() => setQuantities({ ...quantities, [keyOf(row)]: plain(row.returnable) })}
                      >
                        {trim(row.returnable)}
                      </button>
                    ),
                  },
                  {
                    head: 'Quantity',
                    num: true,
                    className: 'wide-96',
                    cell: (row) => (
                      <FigureInput
                        label={`Quantity returned of ${row.description}, ${row.dispatch}`}
                        value={quantities[keyOf(row)] ?? ''}
                        onChange={(to) => setQuantities({ ...quantities, [keyOf(row)]: to })}
                      />
                    ),
                  },
                ]}
              />
            )}
            <More query={query} />
          </>
        )}
        {late.length > 0 && !may('DECIDE') && (
          <p className="error">
            {late.length === 1 ? 'One line departed' : `${late.length} lines departed`} too long ago. A controller or
            the finance lead may allow it.
          </p>
        )}
        <ProblemNote problem={authorise.error} />
      </div>
      <div className="bar">
        {late.length > 0 && may('DECIDE') && (
          <Field of="return-exception" label="Reason for allowing it" className="wide-340">
            <TextLine id="return-exception" maxLength={400} value={exception} onChange={setException} />
          </Field>
        )}
        <button className="button first" disabled={!ready} onClick={() => authorise.mutate()}>
          Authorise {chosen.length > 0 && (chosen.length === 1 ? 'one line' : `${chosen.length} lines`)}{' '}
          <kbd>Ctrl ↵</kbd>
        </button>
        <span className="muted small">
          {reason === '' && !isZero(String(chosen.length))
            ? 'Give a reason.'
            : 'Goods authorised and not yet received are not counted again.'}
        </span>
      </div>
    </div>
  );
}
