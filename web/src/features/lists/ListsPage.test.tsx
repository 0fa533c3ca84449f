import { screen, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { ListView } from '../../shared/list/api';
import { present } from '../../shared/present';
import type { Readable } from '../../shared/session';
import { column, listed, listRow } from '../../test/list';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { ListPage, ListsPage } from './ListsPage';

const list = (name: string, more: Partial<ListView> = {}): ListView => ({
  name,
  title: name,
  one: 'row',
  many: 'rows',
  isRegister: false,
  day: '',
  columns: [],
  views: [],
  ...more,
});

const LATE = {
  key: 'late',
  name: 'Late ones',
  filter: ['requestedOn:in:before-today'],
  sort: '-gross',
  columns: ['number', 'gross'],
  chart: 'customer:gross',
};

function all(reads: Readable[]) {
  signedIn('controller', [], reads);
  answers('get', '/api/lists', [
    list('orders', { views: [LATE] }),
    list('stock'),
    list('sales-register', { day: 'enteredOn', columns: [column('enteredOn', 'Date', 'DAY')] }),
    list('open-invoices', { day: 'asOf', columns: [column('asOf', 'As of', 'AS_OF')] }),
  ]);
  return show(<ListsPage />, { path: '/lists', at: '/lists' });
}

test('every list stands under what it is, and its views open as they were kept', async () => {
  all(['SELLING']);
  const heading = await screen.findByRole('heading', { name: /^Documents/ });
  const documents = present(heading.closest('section'), 'the section');
  expect(within(documents).getAllByRole('row')).toHaveLength(3);
  expect(within(documents).getByRole('link', { name: 'orders' })).toHaveAttribute('href', '/orders?view=');
  expect(within(documents).getByRole('link', { name: 'stock' })).toHaveAttribute('href', '/lists/stock?view=');
  const [path, asked] = (screen.getByRole('link', { name: 'Late ones' }).getAttribute('href') ?? '').split('?');
  expect(path).toBe('/orders');
  expect(Object.fromEntries(new URLSearchParams(asked))).toEqual({
    filter: 'requestedOn:in:before-today',
    sort: '-gross',
    columns: 'number,gross',
    chart: 'customer:gross',
    view: 'late',
  });
  expect(screen.getByRole('link', { name: 'sales-register' })).toHaveAttribute(
    'href',
    '/billing/registers/sales-register?view=',
  );
  expect(screen.getByRole('link', { name: 'open-invoices' })).toHaveAttribute(
    'href',
    '/billing/balances/open-invoices?view=',
  );
});

test('who reads no selling prices finds what there is for them outside of Billing', async () => {
  all(['GOODS']);
  expect(await screen.findByRole('link', { name: 'sales-register' })).toHaveAttribute(
    'href',
    '/lists/sales-register?view=',
  );
});

test('a list without a page of its own is shown by its name', async () => {
  signedIn('warehouse', []);
  listed('stock', [column('number', 'Code', 'TEXT', { opens: 'ITEM' })], [listRow('ITEM', 'RP-112')]);
  show(<ListPage />, { path: '/lists/:list', at: '/lists/stock?view=' });
  expect(await screen.findByRole('link', { name: 'RP-112' })).toHaveAttribute('href', '/items/RP-112');
  expect(screen.getByRole('link', { name: 'Lists' })).toHaveAttribute('href', '/lists');
});
