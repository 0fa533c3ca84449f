import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers, refusal } from '../../test/server';
import { OrderEntryPage } from './OrderEntryPage';

const line = { no: 1, kind: 'STOCK', item: 'A', description: 'Anchor', quantity: '5', net: '150.00' };

const tried = (findings: object[] = [], missing: object[] = []) => ({
  order: {
    customerName: 'Customer',
    lines: [line],
    missing,
    net: '150.00',
    vat: '0.00',
    gross: '150.00',
    vatBands: [],
  },
  outlook: missing.length > 0 ? 'NOT_READY' : findings.length > 0 ? 'HELD' : 'CLEARED',
  findings,
  approval: [],
  position: { terms: [], exposure: '150.00', limit: null },
  sentence: '',
  shortages: [],
});

function begin(run: object = tried()) {
  signedIn('clerk', ['ENTER', 'PROPOSE']);
  answers('get', '/api/sites', [{ code: 'S', name: 'Store' }]);
  answers('get', '/api/rules', { entry: { units: [], fields: [] } });
  answers('get', '/api/customers', [{ code: 'C', name: 'Customer', town: 'Town' }]);
  answers('get', '/api/items', [
    { code: 'A', name: 'Anchor', kind: 'STOCK', free: '9', price: '30.00', elsewhere: [], regulated: '' },
  ]);
  const dryRuns = answers('post', '/api/dry-runs', run);
  return { ...show(<OrderEntryPage />, { path: '/orders/new', at: '/orders/new' }), dryRuns };
}

async function typeAnOrder(user: ReturnType<typeof show>['user']) {
  await user.type(screen.getByRole('combobox', { name: 'Customer' }), 'cust{Enter}');
  await user.type(await screen.findByRole('combobox', { name: 'Item of line 1' }), 'anch{Enter}');
  const quantity = await screen.findByLabelText('Quantity of line 1');
  await user.clear(quantity);
  await user.type(quantity, '5');
}

describe('a new order', () => {
  it('is tried while it is typed, and sent as it was typed', async () => {
    const { user, place, dryRuns } = begin();
    await typeAnOrder(user);
    expect(await screen.findByText('Would be cleared')).toBeVisible();
    await vi.waitFor(
      () => expect(dryRuns.at(-1)?.body).toMatchObject({ customer: 'C', lines: [{ item: 'A', quantity: '5' }] }),
      { timeout: 30_000 },
    );
    expect(dryRuns.every((run) => (run.body as { lines: unknown[] }).lines.length > 0)).toBe(true);
    const sent = answers('post', '/api/orders', { number: 'SO-9', state: 'CLEARED' });
    await user.type(screen.getByLabelText('Customer PO'), 'KW-118');
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(await screen.findByText('Order SO-9 is cleared.')).toBeInTheDocument();
    expect(sent).toHaveLength(1);
    expect(sent[0]?.body).toMatchObject({
      customer: 'C',
      po: 'KW-118',
      draft: false,
      lines: [{ item: 'A', quantity: '5' }],
    });
    expect(place()).toBe('/orders/SO-9');
  });

  it('says what would hold it', async () => {
    const { user } = begin(
      tried([{ check: 'credit-limit', title: 'Credit limit', sentence: 'over by EUR 50.00', severity: 'STOP' }]),
    );
    await typeAnOrder(user);
    expect(await screen.findByText('Would be held')).toBeVisible();
    expect(screen.getByText('Over by EUR 50.00.')).toBeVisible();
  });

  it('leads to the entry that is missing', async () => {
    const { user } = begin(tried([], [{ field: 'po', expected: 'a customer PO' }]));
    await typeAnOrder(user);
    await user.click(await screen.findByRole('button', { name: 'A customer PO' }));
    expect(screen.getByLabelText('Customer PO')).toHaveFocus();
  });

  it('that is refused stays as it was typed', async () => {
    const { user, place } = begin();
    await typeAnOrder(user);
    answers('post', '/api/orders', refusal('duplicate-po', 'KW-118 is used by SO-1.'), 409);
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(await screen.findByText('KW-118 is used by SO-1.')).toBeVisible();
    expect(screen.getByLabelText('Quantity of line 1')).toHaveValue('5');
    expect(place()).toBe('/orders/new');
  });

  it('that was left is there again', async () => {
    const { user } = begin();
    await typeAnOrder(user);
    document.body.innerHTML = '';
    show(<OrderEntryPage />, { path: '/orders/new', at: '/orders/new' });
    expect(await screen.findByText(/Your unsaved order from/)).toBeVisible();
    expect(screen.getByLabelText('Quantity of line 1')).toHaveValue('5');
  });
});
