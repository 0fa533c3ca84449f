import { screen, waitFor } from '@testing-library/react';
import { http, HttpResponse } from 'msw';
import { beforeEach, expect, test } from 'vitest';
import { column, listed, listRow } from '../../test/list';
import { show, signedIn } from '../../test/page';
import { server } from '../../test/server';
import { DataList } from './DataList';

beforeEach(() => {
  signedIn('controller', []);
  listed('orders', [column('number', 'Order', 'TEXT', { opens: 'ORDER' })], []);
});

/** A list of which each answer looks at a thousand rows: `found` tells how many of them match; it ends behind the last. */
function parts(found: number[]) {
  const asked: (string | null)[] = [];
  server.use(
    http.get('*/api/lists/orders/rows', ({ request }) => {
      const after = new URL(request.url).searchParams.get('after');
      asked.push(after);
      const at = Number(after ?? 0);
      const isLast = at === found.length - 1;
      return HttpResponse.json({
        filters: [],
        columns: ['number'],
        sort: '',
        rows: Array.from({ length: found[at] ?? 0 }, (_, index) => listRow('ORDER', `SO-${at}-${index}`)),
        next: isLast ? null : String(at + 1),
        looked: isLast ? null : 1000,
      });
    }),
  );
  return asked;
}

const shown = () => show(<DataList name="orders" />, { path: '/orders', at: '/orders?filter=number:has:7' });

test('looks on by itself until all was looked at', async () => {
  const asked = parts([0, 0, 1]);
  shown();
  expect(await screen.findByText('SO-2-0')).toBeVisible();
  expect(asked).toEqual([null, '1', '2']);
  expect(screen.queryByText(/that were looked at/)).toBeNull();
});

test('stops after some answers, says how far it looked, and looks on when it is told to', async () => {
  const asked = parts([...Array<number>(18).fill(0), 3]);
  const { user } = shown();
  const on = await screen.findByRole('button', { name: 'Look on' });
  expect(screen.getByText(/^No rows match among the 16,000 that were looked at/)).toBeVisible();
  expect(screen.queryByText(/^No rows match\.$/)).toBeNull();
  expect(asked).toHaveLength(16);
  await user.click(on);
  expect(await screen.findByText('SO-18-2')).toBeVisible();
  expect(asked).toHaveLength(19);
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Look on' })).toBeNull());
});

test('stops where enough was found to read, and tells among how many', async () => {
  const asked = parts([20, 40, 40, 40]);
  shown();
  expect(await screen.findByRole('button', { name: 'Look on' })).toBeVisible();
  expect(screen.getByText(/^These match among the 2,000 that were looked at/)).toBeVisible();
  expect(asked).toEqual([null, '1']);
});

test('does not ask again and again where an answer fails', async () => {
  let failed = 0;
  parts([0, 0, 0]);
  const first = { filters: [], columns: ['number'], sort: '', rows: [], next: '1', looked: 1000 };
  server.use(
    http.get('*/api/lists/orders/rows', ({ request }) => {
      if (!new URL(request.url).searchParams.has('after')) return HttpResponse.json(first);
      failed += 1;
      return HttpResponse.json({ code: 'gone', title: 'Gone' }, { status: 500 });
    }),
  );
  shown();
  expect(await screen.findByRole('button', { name: 'Look on' })).toBeVisible();
  const before = failed;
  await new Promise((done) => setTimeout(done, 100));
  expect(failed).toBe(before);
});
