import { screen, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers, refusal } from '../../test/server';
import { DataList } from './DataList';
import type { Column, ListView, Row } from './api';

const column = (name: string, label: string, kind: Column['kind'], more: Partial<Column> = {}): Column => ({
  name,
  label,
  words: label.toLowerCase(),
  kind,
  choices: [],
  opens: null,
  isShown: true,
  isSorted: false,
  isSummed: false,
  ...more,
});

const ORDERS: ListView = {
  name: 'orders',
  title: 'Orders',
  one: 'order',
  many: 'orders',
  isRegister: false,
  day: '',
  columns: [
    column('number', 'Order', 'TEXT', { opens: 'ORDER' }),
    column('customer', 'Customer', 'CODE', { opens: 'CUSTOMER', isSorted: true }),
    column('state', 'State', 'CHOICE', {
      choices: [
        { value: 'HELD', words: 'Held' },
        { value: 'CLOSED_SHORT', words: 'Closed short' },
      ],
    }),
    column('requestedOn', 'Requested', 'DAY', { isSorted: true }),
    column('gross', 'Gross', 'AMOUNT', { isSorted: true, isSummed: true }),
    column('author', 'Entered by', 'TEXT', { isShown: false }),
  ],
};

const row = (number: string, gross: string): Row => ({
  key: number,
  opens: number,
  kind: 'ORDER',
  cells: {
    number,
    customer: { code: 'C1', name: 'Thole Pin Yard' },
    state: 'CLOSED_SHORT',
    requestedOn: '2026-03-02',
    gross,
  },
});

const SHOWN = ['number', 'customer', 'state', 'requestedOn', 'gross'];

function answered(rows: Row[], filters: { written: string; field: string; words: string }[] = []) {
  answers('get', '/api/lists/orders/totals', { count: rows.length, sums: { gross: '1234.50' } });
  return answers('get', '/api/lists/orders/rows', { rows, next: null, filters, columns: SHOWN, sort: '' });
}

const shownAt = (at: string) => show(<DataList name="orders" />, { path: '/orders', at });

beforeEach(() => {
  signedIn('controller', []);
  answers('get', '/api/lists', [ORDERS]);
});

test('shows rows by what their columns hold, and what all of them add up to', async () => {
  answered([row('SO-1', '1000.00'), row('SO-2', '234.50')]);
  shownAt('/orders');
  const cells = within((await screen.findByText('SO-1')).closest('tr') as HTMLElement).getAllByRole('cell');
  expect(cells.map((cell) => cell.textContent)).toEqual([
    'SO-1',
    'Thole Pin Yard',
    'Closed short',
    '2 Mar 2026',
    '1,000.00',
  ]);
  expect(screen.getByRole('link', { name: 'SO-1' })).toHaveAttribute('href', '/orders/SO-1');
  expect(await screen.findByText('2 orders')).toBeVisible();
  expect(screen.getByText('1,234.50')).toBeVisible();
});

test('the address holds what is asked, and a heading sorts one way, the other, and not at all', async () => {
  const asked = answered([row('SO-1', '1.00')]);
  const { user, place } = shownAt('/orders?filter=state:any:HELD&columns=number,gross');
  await screen.findByText('SO-1');
  expect(asked[0]?.url.searchParams.getAll('filter')).toEqual(['state:any:HELD']);
  expect(asked[0]?.url.searchParams.getAll('columns')).toEqual(['number', 'gross']);
  for (const sort of ['gross', '-gross', null]) {
    await user.click(screen.getByRole('button', { name: /^Gross/ }));
    await screen.findByText('SO-1');
    expect(new URLSearchParams(place().split('?')[1]).get('sort')).toBe(sort);
  }
  expect(new URLSearchParams(place().split('?')[1]).get('filter')).toBe('state:any:HELD');
});

test('a condition reads as a sentence and can be taken away', async () => {
  answered(
    [row('SO-1', '1.00')],
    [{ written: 'requestedOn:in:last-3-days', field: 'requestedOn', words: 'in the last 3 days' }],
  );
  const { user, place } = shownAt('/orders?filter=requestedOn:in:last-3-days');
  await user.click(await screen.findByRole('button', { name: 'Without: requested in the last 3 days' }));
  expect(place()).toBe('/orders');
});

test('F adds a condition: a state that it is not', async () => {
  answered([row('SO-1', '1.00')]);
  const { user, place } = shownAt('/orders');
  await screen.findByText('SO-1');
  await user.keyboard('f');
  await user.selectOptions(await screen.findByLabelText('the field'), 'State');
  await user.selectOptions(screen.getByLabelText('How'), 'is none of these');
  await user.click(screen.getByLabelText('Held'));
  await user.click(screen.getByText('Filter', { selector: 'button' }));
  expect(new URLSearchParams(place().split('?')[1]).getAll('filter')).toEqual(['state:none:HELD']);
});

test('a day is today unless said otherwise; of a figure one end is enough', async () => {
  answered([row('SO-1', '1.00')]);
  const { user, place } = shownAt('/orders');
  await screen.findByText('SO-1');
  await user.keyboard('f');
  await user.selectOptions(await screen.findByLabelText('the field'), 'Requested');
  await user.selectOptions(screen.getByLabelText('is'), 'in the last days');
  await user.click(screen.getByText('Filter', { selector: 'button' }));
  await user.keyboard('f');
  await user.selectOptions(await screen.findByLabelText('the field'), 'Gross');
  expect(screen.getByText('Filter', { selector: 'button' })).toBeDisabled();
  await user.type(screen.getByLabelText('at least'), '1,000');
  await user.click(screen.getByText('Filter', { selector: 'button' }));
  expect(new URLSearchParams(place().split('?')[1]).getAll('filter')).toEqual([
    'requestedOn:in:last-3-days',
    'gross:between:1000..',
  ]);
});

test('columns are chosen and moved, and stand so in the address and in the file', async () => {
  answered([row('SO-1', '1.00')]);
  const { user, place } = shownAt('/orders?sort=-gross');
  await screen.findByText('SO-1');
  await user.click(screen.getByRole('button', { name: 'Columns' }));
  await user.click(await screen.findByLabelText('Entered by'));
  expect(screen.getByLabelText('Entered by')).toHaveFocus();
  await user.click(screen.getByLabelText('Customer'));
  await user.click(screen.getByRole('button', { name: 'State earlier' }));
  await user.click(screen.getByText('Show these', { selector: 'button' }));
  expect(new URLSearchParams(place().split('?')[1]).get('columns')).toBe('state,number,requestedOn,gross,author');
  expect(await screen.findByRole('link', { name: 'CSV' })).toHaveAttribute(
    'href',
    '/api/lists/orders/file?format=CSV&sort=-gross&columns=state%2Cnumber%2CrequestedOn%2Cgross%2Cauthor',
  );
});

test('nothing that matches says so, and shows all again', async () => {
  answered([], [{ written: 'state:any:HELD', field: 'state', words: 'Held' }]);
  const { user, place } = shownAt('/orders?filter=state:any:HELD');
  expect(await screen.findByText(/No orders match/)).toBeVisible();
  await user.click(screen.getByRole('link', { name: 'Show all' }));
  expect(place()).toBe('/orders');
});

test('the keys move along the rows and open the one they stand on', async () => {
  answered([row('SO-1', '1.00'), row('SO-2', '2.00')]);
  const { user, place } = shownAt('/orders');
  await screen.findByText('SO-2');
  await user.keyboard('j{Enter}');
  expect(place()).toBe('/orders/SO-2');
});

test('what can not be read says why, and the way back to all', async () => {
  answers('get', '/api/lists/orders/rows', refusal('unreadable-filter', 'The filter gross:any:5 can’t be read.'), 400);
  const { user, place } = shownAt('/orders?filter=gross:any:5');
  expect(await screen.findByText('The filter gross:any:5 can’t be read.')).toBeVisible();
  answered([row('SO-1', '1.00')]);
  await user.click(screen.getByRole('link', { name: 'Show all orders' }));
  expect(await screen.findByText('SO-1')).toBeVisible();
  expect(place()).toBe('/orders');
});

test('a list that is not for somebody says so', async () => {
  answers('get', '/api/lists', []);
  answered([]);
  shownAt('/orders');
  expect(await screen.findByText('This list is not for you.')).toBeVisible();
});

const REGISTER: ListView = {
  ...ORDERS,
  name: 'sales-register',
  title: 'Sales register',
  isRegister: true,
  day: 'enteredOn',
  columns: [
    column('number', 'Invoice', 'TEXT', { opens: 'INVOICE' }),
    column('enteredOn', 'Date', 'DAY', { isSorted: true }),
    column('net', 'Net', 'AMOUNT', { isSummed: true }),
  ],
};

function registered(proof: unknown) {
  answers('get', '/api/lists', [REGISTER]);
  answers('get', '/api/lists/sales-register/totals', { count: 1, sums: { net: '120.00' }, proof });
  answers('get', '/api/lists/sales-register/rows', {
    rows: [
      {
        key: '-7',
        opens: '2026-00007',
        kind: 'INVOICE',
        cells: { number: '2026-00007', enteredOn: '2026-10-31', net: '120.00' },
      },
    ],
    next: null,
    filters: [],
    columns: ['number', 'enteredOn', 'net'],
    sort: '-enteredOn',
  });
  return show(<DataList name="sales-register" />, { path: '/billing/registers', at: '/billing/registers' });
}

const tied = (difference: string) => ({
  from: '2026-10-01',
  to: '2026-10-31',
  figures: [
    {
      figure: 'net',
      registered: '120.00',
      accounts: [
        { account: '4000', name: 'Sales of goods', amount: '90.00' },
        { account: '4100', name: 'Sales of services', amount: '29.99' },
      ],
      ledger: '119.99',
      difference,
      agrees: difference === '0.00',
    },
  ],
});

test('a register says which accounts it ties to, and opens them for the same days', async () => {
  registered(tied('0.00'));
  expect(await screen.findByText('Ties to the ledger')).toBeVisible();
  expect(screen.getByText('difference –')).toBeVisible();
  expect(screen.getByRole('link', { name: '4100' })).toHaveAttribute(
    'href',
    '/ledger/account?account=4100&from=2026-10-01&to=2026-10-31',
  );
});

test('a register that does not tie says by how much', async () => {
  registered(tied('0.01'));
  expect(await screen.findByText('Does not tie to the ledger')).toBeVisible();
  expect(screen.getByText('difference 0.01')).toHaveClass('error');
});

test('a register of some of its rows proves nothing and says so', async () => {
  registered(null);
  expect(await screen.findByText(/where nothing but the date is filtered/)).toBeVisible();
});

test('the list’s own sequence is shown, and the heading turns it', async () => {
  const { user, place } = registered(tied('0.00'));
  const heading = await screen.findByRole('columnheader', { name: /^Date/ });
  expect(heading).toHaveAttribute('aria-sort', 'descending');
  await user.click(screen.getByRole('button', { name: /^Date/ }));
  expect(place()).toBe('/billing/registers?sort=enteredOn');
});
