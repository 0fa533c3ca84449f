import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers, refusal } from '../../test/server';
import { InvoicePage } from './Invoices';

const invoice = {
  number: '2026-00001',
  customer: 'C',
  customerName: 'Customer',
  on: '2026-02-01',
  dueOn: '2026-03-03',
  state: 'PART_PAID',
  net: '100.00',
  vat: '21.00',
  gross: '121.00',
  open: '0.40',
  text: '',
  version: 7,
  details: [],
  lines: [],
  bands: [],
  earlyPayment: null,
  reductions: [],
  disputed: false,
  small: true,
};

async function open(shown: Partial<typeof invoice> = {}) {
  signedIn('receivables', ['BILL', 'PROPOSE']);
  answers('get', '/api/invoices/2026-00001', { ...invoice, ...shown });
  answers('get', '/api/invoices/2026-00001/actions', {
    actions: [
      { action: 'DISPUTE', refused: null },
      { action: 'WRITE_OFF', refused: null },
    ],
  });
  answers('get', '/api/invoices/2026-00001/disputes', []);
  answers('get', '/api/users', [{ username: 'receivables', displayName: 'Tove', role: 'RECEIVABLES' }]);
  const hands = show(<InvoicePage />, { path: '/billing/invoice/:number', at: '/billing/invoice/2026-00001' });
  await hands.user.click(await screen.findByRole('button', { name: 'Write off' }));
  return hands;
}

const give = () => screen.getByRole('button', { name: /^Write off ↵/ });

describe('a write-off', () => {
  it('of cents is a small difference, of all that is open, with a reason', async () => {
    const { user } = await open();
    const sent = answers('post', '/api/invoices/2026-00001/write-offs', { number: 'W-1', amount: '0.40' });
    expect(screen.getByLabelText('As')).toHaveValue('SMALL_DIFFERENCE');
    expect(give()).toBeDisabled();
    await user.type(screen.getByLabelText('Reason'), 'bank charge');
    await user.click(give());
    expect(await screen.findByText(/0.40 written off with W-1/)).toBeInTheDocument();
    expect(sent[0]?.body).toEqual({ version: 7, kind: 'SMALL_DIFFERENCE', amount: '0.40', reason: 'bank charge' });
  });

  it('of more is bad debt, and stays as it was typed where it is refused', async () => {
    const { user } = await open({ open: '121.00', small: false });
    answers('post', '/api/invoices/2026-00001/write-offs', refusal('not-authorised', 'It is for a controller.'), 403);
    expect(screen.getByLabelText('As')).toHaveValue('BAD_DEBT');
    await user.type(screen.getByLabelText('Reason'), 'insolvent');
    await user.click(give());
    expect(await screen.findByRole('alert')).toHaveTextContent('It is for a controller.');
    expect(screen.getByLabelText('Reason')).toHaveValue('insolvent');
  });
});
