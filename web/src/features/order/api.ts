import { queryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';

/** A line as it is being typed; without an item it is still empty, unless it is a text or a subtotal. */
export type TypedLine = {
  no?: number;
  kind?: 'TEXT' | 'SUBTOTAL';
  item: string;
  description: string;
  free: string | null;
  quantity: string;
  price: string;
  discount: string;
  requestedOn: string;
  site: string;
  shortage: 'WAIT' | 'DROP';
};

export type ShipTo = { name: string; street: string; postcode: string; town: string; country: string };

/** An order as it is being typed. */
export type TypedOrder = {
  customer: string;
  customerName: string;
  po: string;
  kind: 'STANDARD' | 'SAMPLE' | 'REPLACEMENT' | 'DIRECT' | 'CALL_OFF';
  site: string;
  requestedOn: string;
  remark: string;
  externalReference: string;
  revenueUnit: string | null;
  shipTo: ShipTo | null;
  fields: Record<string, string>;
  /** number of the return or dispatch that a replacement stands for */
  replaces: string;
  lines: TypedLine[];
};

export const isWritten = (line: TypedLine) => line.item !== '' || line.kind !== undefined;

const lines = (order: TypedOrder): Schemas['WrittenLine'][] =>
  order.lines.filter(isWritten).map((line) =>
    line.kind
      ? { no: line.no, kind: line.kind, text: line.description }
      : {
          no: line.no,
          item: line.item,
          quantity: line.quantity || '0',
          price: line.price || undefined,
          discount: line.discount || '0',
          requestedOn: line.requestedOn || undefined,
          site: line.site,
          shortage: line.shortage,
        },
  );

const content = (order: TypedOrder) => ({
  po: order.po,
  requestedOn: order.requestedOn || undefined,
  details: {
    externalReference: order.externalReference,
    revenueUnit: order.revenueUnit ?? undefined,
    shipTo: order.shipTo ?? undefined,
    fields: order.fields,
    replaces: order.kind === 'REPLACEMENT' ? order.replaces : undefined,
  },
  lines: lines(order),
});

export const tryOrder = (order: TypedOrder, number: string | undefined) =>
  answer(
    client.POST('/api/dry-runs', {
      body: { number, customer: order.customer, kind: order.kind, site: order.site || undefined, ...content(order) },
    }),
  );

export const writeOrder = (order: TypedOrder, draft: boolean) =>
  answer(
    client.POST('/api/orders', {
      body: {
        customer: order.customer,
        kind: order.kind,
        site: order.site || undefined,
        remark: order.remark,
        draft,
        ...content(order),
      },
      ...once(),
    }),
  );

export const changeOrder = (number: string, version: number, order: TypedOrder) =>
  answer(
    client.PUT('/api/orders/{number}', {
      params: { path: { number } },
      body: { version, remark: order.remark, ...content(order) },
      ...once(),
    }),
  );

/** What an order brings, weighs and fills. */
export const figuresQuery = (number: string) =>
  queryOptions({
    queryKey: keyOf('orders', number, 'figures'),
    queryFn: () => answer(client.GET('/api/orders/{number}/figures', { params: { path: { number } } })),
  });
