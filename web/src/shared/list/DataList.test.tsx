import { screen, waitFor, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, expect, test } from 'vitest';
import { column, listed, listRow } from '../../test/list';
import { show, signedIn } from '../../test/page';
import { answers, refusal } from '../../test/server';
import { DataList } from './DataList';
import type { ListView, Row, SavedView } from './api';

const ORDERS: ListView = {
  name: 'orders',
  title: 'Orders',
  one: 'order',
  many: 'orders',
  isRegister: false,
  day: '',
  views: [],
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
    column('gross', 'Gross', 'AMOUNT', { isSorted: true, measure: 'SUM' }),
    column('author', 'Entered by', 'TEXT', { isShown: false }),
  ],
};

const row = (number: string, gross: string): Row => ({
  key: number,
  opens: number,
  kind: 'ORDER',
  version: null,
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
  answers('get', '/api/lists/orders/views', []);
  answers('get', '/api/lists/orders/totals', { count: rows.length, sums: { gross: '1234.50' }, isWhole: true });
  return answers('get', '/api/lists/orders/rows', { rows, next: null, filters, columns: SHOWN, sort: '' });
}

const shownAt = (at: string) => show(<DataList name="orders" />, { path: '/orders', at });

beforeEach(() => {
  signedIn('controller', []);
  answers('get', '/api/lists/orders/selected', { count: 0, sums: {}, proof: null });
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

test('many rows are counted and added up when that is asked for', async () => {
  answers('get', '/api/lists/orders/views', []);
  answers('get', '/api/lists/orders/rows', {
    rows: [row('SO-1', '1.00')],
    next: 'x',
    filters: [],
    columns: SHOWN,
    sort: '',
  });
  const counted = answers('get', '/api/lists/orders/totals', { count: 1000, sums: {}, isWhole: false });
  const { user } = shownAt('/orders?view=');
  expect(await screen.findByText(/^1,000\+ orders/)).toBeVisible();
  expect(counted[0]?.url.searchParams.get('capped')).toBe('true');
  const whole = answers('get', '/api/lists/orders/totals', { count: 2100, sums: { gross: '9.50' }, isWhole: true });
  await user.click(screen.getByRole('button', { name: 'Count and add up all' }));
  expect(await screen.findByText('2,100 orders')).toBeVisible();
  expect(screen.getByText('9.50')).toBeVisible();
  expect(whole[0]?.url.searchParams.get('capped')).toBe('false');
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
  expect(place()).toBe('/orders?view=');
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
  await user.keyboard('e');
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
  expect(place()).toBe('/orders?view=');
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
  expect(place()).toBe('/orders?view=');
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
    column('net', 'Net', 'AMOUNT', { measure: 'SUM' }),
  ],
};

function registered(proof: unknown) {
  answers('get', '/api/lists', [REGISTER]);
  answers('get', '/api/lists/sales-register/views', []);
  answers('get', '/api/lists/sales-register/totals', { count: 1, sums: { net: '120.00' }, isWhole: true, proof });
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

const OPEN: ListView = {
  ...ORDERS,
  name: 'open-invoices',
  title: 'Open invoices',
  isRegister: true,
  day: 'asOf',
  columns: [
    column('number', 'Invoice', 'TEXT', { opens: 'INVOICE' }),
    column('still', 'Open', 'AMOUNT', { measure: 'SUM' }),
    column('asOf', 'As of', 'AS_OF', { isShown: false }),
  ],
};

function asOfADay(selected?: () => ReactNode) {
  answers('get', '/api/lists', [OPEN]);
  answers('get', '/api/lists/open-invoices/views', []);
  answers('get', '/api/lists/open-invoices/totals', {
    count: 1,
    sums: { still: '119.99' },
    proof: { ...tied('0.00'), from: null, to: '2026-10-31' },
  });
  const asked = answers('get', '/api/lists/open-invoices/rows', {
    rows: [{ key: '7', opens: '2026-00007', kind: 'INVOICE', cells: { number: '2026-00007', still: '119.99' } }],
    next: null,
    filters: [],
    columns: ['number', 'still'],
    sort: '',
  });
  const at = '/lists/open-invoices?filter=number:starts:2026&filter=asOf:at:yesterday';
  return {
    asked,
    ...show(<DataList name="open-invoices" selected={selected} />, { path: '/lists/open-invoices', at }),
  };
}

test('what stood at the end of a day is asked for another day, and the ledger opens the month that ended so', async () => {
  const { user, asked, place } = asOfADay();
  expect(await screen.findByRole('link', { name: '4000' })).toHaveAttribute(
    'href',
    '/ledger/account?account=4000&from=2026-10-01&to=2026-10-31',
  );
  const day = screen.getByLabelText('As of');
  expect(day).toHaveDisplayValue('yesterday');
  await user.selectOptions(day, 'the end of last month');
  expect(place()).toBe('/lists/open-invoices?filter=asOf%3Aat%3Alast-month&filter=number%3Astarts%3A2026');
  await waitFor(() => expect(asked.at(-1)?.url.search).toContain('last-month'));
  await user.selectOptions(day, 'today');
  expect(place()).toBe('/lists/open-invoices?filter=number%3Astarts%3A2026');
});

test('a filter for another day takes the place of the one before', async () => {
  const { user, place } = asOfADay();
  await screen.findByText('2026-00007');
  await user.keyboard('f');
  await user.selectOptions(await screen.findByLabelText('the field'), 'As of');
  await user.selectOptions(screen.getByLabelText('as of'), 'the day');
  expect(screen.getByRole('button', { name: /^Filter/ })).toBeDisabled();
  await user.type(screen.getByLabelText('day'), '30 Sep 2026');
  await user.click(screen.getByRole('button', { name: /^Filter/ }));
  expect(place()).toBe('/lists/open-invoices?filter=number%3Astarts%3A2026&filter=asOf%3Aat%3A2026-09-30');
});

test('the list’s own sequence is shown, and the heading turns it', async () => {
  const { user, place } = registered(tied('0.00'));
  const heading = await screen.findByRole('columnheader', { name: /^Date/ });
  expect(heading).toHaveAttribute('aria-sort', 'descending');
  await user.click(screen.getByRole('button', { name: /^Date/ }));
  expect(place()).toBe('/billing/registers?sort=enteredOn');
});

const LATE: SavedView = {
  key: '7',
  name: 'Late ones',
  owner: 'clerk2',
  isForAll: true,
  isMine: false,
  isStandard: false,
  filter: ['requestedOn:in:before-today'],
  sort: '-gross',
  columns: ['number', 'gross'],
  chart: '',
  version: 3,
};

test('V shows the views; one of them is a link that asks for all it holds', async () => {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/views', [LATE]);
  const { user, place } = shownAt('/orders?view=');
  await screen.findByText('SO-1');
  await user.keyboard('v');
  expect(await screen.findByText('everybody’s view, kept by clerk2')).toBeVisible();
  expect(screen.queryByRole('button', { name: 'Remove Late ones' })).toBeNull();
  await user.click(screen.getByRole('link', { name: 'Late ones' }));
  expect(place()).toBe('/orders?filter=requestedOn%3Ain%3Abefore-today&sort=-gross&columns=number%2Cgross&view=7');
  expect(await screen.findByRole('heading', { name: 'Late ones' })).toBeVisible();
});

test('what somebody sees first is shown where nothing is asked for', async () => {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/views', [{ ...LATE, isStandard: true }]);
  const { place } = shownAt('/orders');
  await screen.findByText('SO-1');
  expect(place()).toContain('view=7');
});

test('all rows are all rows, whatever is seen first', async () => {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/views', [{ ...LATE, isStandard: true }]);
  const { place } = shownAt('/orders?view=');
  await screen.findByText('SO-1');
  expect(place()).toBe('/orders?view=');
  expect(screen.getByRole('heading', { name: 'Orders' })).toBeVisible();
});

test('what is asked is kept under a name, for everybody', async () => {
  answered([row('SO-1', '1.00')], [{ written: 'state:none:CANCELLED', field: 'state', words: 'not cancelled' }]);
  const kept = answers('post', '/api/lists/orders/views', { ...LATE, key: '9', name: 'Not cancelled' });
  answers('get', '/api/lists/orders/groups', []);
  const { user, place } = shownAt('/orders?filter=state:none:CANCELLED&chart=state:count');
  await screen.findByText('SO-1');
  await user.click(screen.getByRole('button', { name: 'Keep view' }));
  expect(screen.getByText('Keep', { selector: 'button' })).toBeDisabled();
  await user.type(await screen.findByLabelText('name'), 'Not cancelled');
  await user.click(screen.getByLabelText('for everybody who reads this list'));
  await user.click(screen.getByText('Keep', { selector: 'button' }));
  await waitFor(() => expect(place()).toContain('view=9'));
  expect(kept.map((one) => one.body)).toEqual([
    {
      name: 'Not cancelled',
      forAll: true,
      filter: ['state:none:CANCELLED'],
      sort: '',
      columns: [],
      chart: 'state:count',
    },
  ]);
});

test('a view of one’s own is changed to what is asked now, by the version that was seen', async () => {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/views', [{ ...LATE, isMine: true }]);
  const changed = answers('put', '/api/lists/orders/views/7', { ...LATE, isMine: true, version: 4 });
  const { user } = shownAt('/orders?filter=state:any:HELD&view=7');
  await user.click(await screen.findByRole('button', { name: 'Keep view' }));
  expect(await screen.findByLabelText('name')).toHaveValue('Late ones');
  await user.click(screen.getByText('Change Late ones', { selector: 'button' }));
  await waitFor(() => expect(changed).toHaveLength(1));
  expect(changed[0]?.body).toMatchObject({ version: 3, view: { filter: ['state:any:HELD'], name: 'Late ones' } });
});

test('a chart is part of the address; its figures open the rows behind them', async () => {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/groups', [
    { words: 'Held', filter: 'state:any:HELD', count: 3, measured: '1234.50' },
    { words: 'all others', filter: '', count: 40, measured: '98765.00' },
    { words: 'none', filter: '', count: 1, measured: '0.00' },
  ]);
  const { user, place } = shownAt('/orders?filter=gross:between:1..');
  await user.click(await screen.findByRole('button', { name: 'Chart' }));
  expect(new URLSearchParams(place().split('?')[1]).get('chart')).toBe('customer:count');
  await user.selectOptions(await screen.findByLabelText('by'), 'state');
  await user.selectOptions(screen.getByLabelText('what'), 'gross');
  expect(new URLSearchParams(place().split('?')[1]).get('chart')).toBe('state:gross');
  expect(await screen.findByText(/^Not drawn: all others, 98,765.00/)).toBeVisible();
  expect(screen.queryByText(/^Not drawn: none/)).toBeNull();
  await user.click(await screen.findByText('As figures'));
  expect(screen.getByRole('row', { name: 'Held 3 1,234.50' })).toBeVisible();
  await user.click(screen.getByRole('link', { name: 'Held' }));
  expect(new URLSearchParams(place().split('?')[1]).getAll('filter')).toEqual(['gross:between:1..', 'state:any:HELD']);
});

test('what is typed in the box is offered as filters that find something', async () => {
  answered([row('SO-1', '1.00')]);
  const asked = answers('get', '/api/lists/orders/found', [
    { written: 'number:starts:so-1', words: 'number begins with “so-1”' },
    { written: 'customer:any:C101', words: 'customer Petrel Cove' },
  ]);
  const { user, place } = shownAt('/orders?filter=state:any:HELD');
  await user.type(await screen.findByLabelText('Find in orders'), 'so-1');
  await user.click(await screen.findByText('customer Petrel Cove'));
  expect(asked.at(-1)?.url.searchParams.get('q')).toBe('so-1');
  expect(new URLSearchParams(place().split('?')[1]).getAll('filter')).toEqual(['state:any:HELD', 'customer:any:C101']);
});

test('the sums of selected rows are as of the day that the rows are told as of', async () => {
  const { user } = asOfADay(() => null);
  const told = { count: 1, sums: { still: '119.99' }, proof: null };
  const summed = answers('get', '/api/lists/open-invoices/selected', told);
  await user.click(await screen.findByLabelText('Select all'));
  expect(await screen.findByRole('row', { name: '1 selected 119.99' })).toBeVisible();
  expect(summed.at(-1)?.url.searchParams.getAll('filter')).toEqual(['asOf:at:yesterday']);
});

test('of the selected rows the sums are told, and all that match are selected beyond what is shown', async () => {
  answers('get', '/api/lists/orders/rows', {
    rows: [row('SO-1', '1.00'), row('SO-2', '2.00')],
    next: 'more',
    filters: [],
    columns: ['number', 'gross'],
    sort: '',
  });
  answers('get', '/api/lists/orders/totals', { count: 3, sums: { gross: '6.00' }, isWhole: true, proof: null });
  const summed = answers('get', '/api/lists/orders/selected', { count: 2, sums: { gross: '3.00' }, proof: null });
  const { user } = show(
    <DataList name="orders" selected={(chosen) => <output>{chosen.map((one) => one.opens).join(' ')}</output>} />,
    { path: '/orders', at: '/orders?view=' },
  );
  await user.click(await screen.findByLabelText('Select all'));
  expect(await screen.findByRole('row', { name: '2 selected 3.00' })).toBeVisible();
  expect(summed.at(-1)?.url.searchParams.getAll('keys')).toHaveLength(2);
  answers('get', '/api/lists/orders/rows', {
    rows: [row('SO-3', '3.00')],
    next: null,
    filters: [],
    columns: ['number', 'gross'],
    sort: '',
  });
  await user.click(screen.getByRole('button', { name: 'Select all that match' }));
  expect(await screen.findByText('SO-1 SO-2 SO-3')).toBeVisible();
});

test('a median is called one in the last row, and no bar is drawn of nothing', async () => {
  listed('findings', [column('number', 'Order', 'TEXT'), column('days', 'Days', 'COUNT', { measure: 'MEDIAN' })], []);
  answers('get', '/api/lists/findings/rows', {
    rows: [listRow('ORDER', 'SO-1', { days: '3' })],
    next: null,
    filters: [],
    columns: ['number', 'days'],
    sort: '',
  });
  answers('get', '/api/lists/findings/totals', { count: 1, sums: { days: '3' }, isWhole: true, proof: null });
  answers('get', '/api/lists/findings/groups', [
    { words: 'Credit', filter: 'check:any:credit', count: 3, measured: '2.5' },
    { words: 'Margin', filter: 'check:any:margin', count: 1, measured: null },
  ]);
  const { user } = show(<DataList name="findings" />, {
    path: '/lists/findings',
    at: '/lists/findings?chart=check:days',
  });
  expect(await screen.findByText('median 3')).toBeVisible();
  await user.click(await screen.findByText('As figures'));
  expect(screen.getByRole('columnheader', { name: 'median days' })).toBeVisible();
  expect(screen.getByRole('row', { name: 'Credit 3 2.5' })).toBeVisible();
  expect(screen.getByRole('row', { name: 'Margin 1 –' })).toBeVisible();
});

test('rows are selected with X or their boxes, all with one, and stay so when more come', async () => {
  answered([row('SO-1', '1.00'), row('SO-2', '2.00'), row('SO-3', '3.00')]);
  const { user } = show(
    <DataList
      name="orders"
      selected={(chosen) => <output>{chosen.map((one) => one.opens).join(' ') || 'nothing'}</output>}
    />,
    { path: '/orders', at: '/orders?view=' },
  );
  expect(await screen.findByText('nothing')).toBeVisible();
  await user.keyboard('jx');
  expect(screen.getByText('SO-2', { selector: 'output' })).toBeVisible();
  await user.click(screen.getByLabelText('Select SO-1'));
  expect(screen.getByText('SO-1 SO-2')).toBeVisible();
  await user.click(screen.getByLabelText('Select all'));
  expect(screen.getByText('SO-1 SO-2 SO-3')).toBeVisible();
  await user.click(screen.getByLabelText('Select all'));
  expect(screen.getByText('nothing')).toBeVisible();
});

const SHIPPED: SavedView = { ...LATE, key: 'late', owner: '', isStandard: false };

function firstOf(views: SavedView[]) {
  answered([row('SO-1', '1.00')]);
  answers('get', '/api/lists/orders/views', views);
  return show(<DataList name="orders" first="late" />, { path: '/orders', at: '/orders' });
}

test('a view that ships is seen first by those who have chosen none', async () => {
  const { place } = firstOf([SHIPPED]);
  expect(await screen.findByRole('heading', { name: 'Late ones' })).toBeVisible();
  expect(new URLSearchParams(place().split('?')[1]).get('view')).toBe('late');
});

test('a view that somebody has chosen comes before the one that ships', async () => {
  firstOf([SHIPPED, { ...SHIPPED, key: '8', name: 'My own', isStandard: true }]);
  expect(await screen.findByRole('heading', { name: 'My own' })).toBeVisible();
});

test('a column is made wider with the arrow keys, stays so, and is let go by a double click', async () => {
  answered([row('SO-1', '1.00')]);
  const { user } = shownAt('/orders');
  const edge = await screen.findByRole('slider', { name: 'Width of Customer' });
  expect(edge).toHaveAttribute('aria-valuetext', 'as wide as its content');
  edge.focus();
  await user.keyboard('{ArrowRight}');
  const width = Number(edge.getAttribute('aria-valuenow'));
  await user.keyboard('{ArrowRight}');
  expect(Number(edge.getAttribute('aria-valuenow'))).toBeGreaterThanOrEqual(width);
  expect(edge.closest('th')).toHaveStyle({ maxWidth: `${edge.getAttribute('aria-valuenow')}px` });
  expect(screen.getByText('Thole Pin Yard')).toHaveStyle({ maxWidth: `${edge.getAttribute('aria-valuenow')}px` });
  expect(localStorage.getItem('widths of orders')).toContain('customer');
  await user.dblClick(edge);
  expect(edge).toHaveAttribute('aria-valuetext', 'as wide as its content');
});
