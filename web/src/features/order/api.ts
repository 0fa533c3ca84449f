import { infiniteQueryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';

export type OrderState = NonNullable<Schemas['OrderRow']['state']>;

export type OrderLane = 'SENT_BACK' | 'LATE' | 'PART_SHIPPED';

export const ordersQuery = (state: OrderState | undefined, customer: string | undefined, lane: OrderLane | undefined) =>
  infiniteQueryOptions({
    queryKey: ['orders', state, customer, lane],
    queryFn: ({ pageParam }) => answer(client.GET('/api/orders', { params: { query: { state, customer, lane, after: pageParam } } })),
    ...pages,
  });

export const findCustomers = (q: string) => answer(client.GET('/api/customers', { params: { query: { q } } }));
export const findItems = (q: string) => answer(client.GET('/api/items', { params: { query: { q } } }));

/** A line as it is being typed. */
export type TypedLine = {
  no?: number;
  item: string;
  description: string;
  unit: string;
  free: string | null;
  quantity: string;
  price: string;
  discount: string;
};

/** An order as it is being typed. */
export type TypedOrder = {
  customer: string;
  customerName: string;
  po: string;
  kind: 'STANDARD' | 'SAMPLE' | 'REPLACEMENT' | 'DIRECT' | 'CALL_OFF';
  requestedOn: string;
  remark: string;
  lines: TypedLine[];
};

const lines = (order: TypedOrder) =>
  order.lines
    .filter((line) => line.item)
    .map((line) => ({
      no: line.no,
      item: line.item,
      quantity: line.quantity || '0',
      price: line.price || undefined,
      discount: line.discount || undefined,
    }));

export const tryOrder = (order: TypedOrder) =>
  answer(
    client.POST('/api/dry-runs', {
      body: { customer: order.customer, po: order.po, kind: order.kind, requestedOn: order.requestedOn || undefined, lines: lines(order) },
    }),
  );

export const writeOrder = (order: TypedOrder, draft: boolean) =>
  answer(
    client.POST('/api/orders', {
      body: {
        customer: order.customer,
        po: order.po,
        kind: order.kind,
        requestedOn: order.requestedOn || undefined,
        remark: order.remark,
        lines: lines(order),
        draft,
      },
      ...once(),
    }),
  );

export const changeOrder = (number: string, version: number, order: TypedOrder) =>
  answer(
    client.PUT('/api/orders/{number}', {
      params: { path: { number } },
      body: { version, po: order.po, requestedOn: order.requestedOn || undefined, remark: order.remark, lines: lines(order) },
      ...once(),
    }),
  );
