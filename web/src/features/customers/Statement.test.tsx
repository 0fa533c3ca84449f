import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { Statement } from './Statement';

beforeEach(() => {
  signedIn('controller', []);
});

const happened = (kind: string, number: string, owed: string, balance: string, more = {}) => ({
  on: '2026-03-02',
  kind,
  number,
  what: 'posted',
  reference: '',
  value: null,
  owed,
  balance,
  ...more,
});

const open = (kind: string, number: string, more: object) => ({
  on: '2026-03-01',
  kind,
  number,
  what: 'UNPAID',
  reference: '',
  dueOn: null,
  toCome: null,
  open: null,
  balance: '0.00',
  ...more,
});

const at = (address: string) =>
  show(<Statement code="C101" />, { path: '/customers/C101/statement', at: `/customers/C101/statement${address}` });

test('what is open comes to what is owed, and says what is ordered beside it', async () => {
  answers('get', '/api/customers/C101/open-documents', {
    rows: [
      open('INVOICE', '2026-00001', { dueOn: '2026-01-01', open: '100.00', balance: '100.00' }),
      open('ORDER', 'SO-1', { what: 'HELD', reference: 'PO-7', toCome: '55.00', balance: '100.00' }),
      open('PAYMENT', 'P-1', { what: 'UNUSED', open: '-30.00', balance: '70.00' }),
    ],
    toCome: '55.00',
    owed: '70.00',
    isAll: false,
  });
  at('');
  expect(await screen.findByText(/70.00 owed; € 55.00 ordered and not billed\. There is more/)).toBeVisible();
  expect(screen.getByRole('row', { name: /Order SO-1 Trail of SO-1 Held PO-7 – 55.00 – 100.00/ })).toBeVisible();
  expect(screen.getByRole('row', { name: /Payment P-1 Trail of P-1 Unused – – −\s?30.00 70.00/ })).toBeVisible();
});

test('a kind alone is shown without a balance that would run through what is not there', async () => {
  answers('get', '/api/customers/C101/open-documents', {
    rows: [
      open('INVOICE', '2026-00001', { open: '100.00', balance: '100.00' }),
      open('ORDER', 'SO-1', { what: 'HELD', toCome: '55.00', balance: '100.00' }),
    ],
    toCome: '55.00',
    owed: '100.00',
    isAll: true,
  });
  const { user, place } = at('');
  await user.click(await screen.findByRole('button', { name: 'orders' }));
  expect(place()).toContain('only=orders');
  expect(screen.getByRole('link', { name: 'SO-1' })).toBeVisible();
  expect(screen.queryByRole('link', { name: '2026-00001' })).toBeNull();
  expect(screen.queryByRole('columnheader', { name: /Balance/ })).toBeNull();
});

test('all documents of some days have debit, credit and balance, a piece at a time', async () => {
  const asked = answers('get', '/api/customers/C101/documents', {
    from: '2026-03-01',
    to: '2026-03-31',
    opening: '10.00',
    rows: [
      happened('ORDER', 'SO-1', '0.00', '10.00', { what: 'ordered', value: '121.00' }),
      happened('INVOICE', '2026-00002', '121.00', '131.00'),
      happened('PAYMENT', 'P-9', '-131.00', '0.00'),
    ],
    closing: '0.00',
    next: '2026-03-15',
  });
  const { user } = at('?show=all&from=2026-03-01&to=2026-03-31');
  expect(await screen.findByRole('row', { name: /brought forward 10.00/ })).toBeVisible();
  expect(screen.getByRole('row', { name: /SO-1 Trail of SO-1 ordered 121.00 – – 10.00/ })).toBeVisible();
  expect(screen.getByRole('row', { name: /2026-00002 Trail of 2026-00002 posted – 121.00 – 131.00/ })).toBeVisible();
  expect(screen.getByRole('row', { name: /P-9 Trail of P-9 posted – – 131.00 0.00/ })).toBeVisible();
  // what is owed on the last day is said when that day is there
  expect(screen.queryByText(/^On 31 Mar 2026/)).toBeNull();
  answers('get', '/api/customers/C101/documents', {
    from: '2026-03-15',
    to: '2026-03-31',
    opening: '0.00',
    rows: [happened('CREDIT_NOTE', 'C2026-1', '-5.00', '-5.00')],
    closing: '-5.00',
    next: null,
  });
  await user.click(screen.getByRole('button', { name: /More/i }));
  expect(await screen.findByText(/On 31 Mar 2026 € 5.00 customer credit/)).toBeVisible();
  await waitFor(() => expect(asked.length).toBeGreaterThan(0));
});
