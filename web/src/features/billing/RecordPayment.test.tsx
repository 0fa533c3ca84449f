import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers, refusal } from '../../test/server';
import { RecordPayment } from './RecordPayment';

const invoice = (number: string, open: string) => ({
  number,
  customer: 'C',
  customerName: 'Customer',
  on: '2026-02-01',
  dueOn: '2026-03-03',
  gross: open,
  open,
  state: 'OPEN',
  disputed: false,
  earlyPayment: null as null | { percent: string; until: string; discount: string; due: string },
});

async function open(credit = '0.00', early: ReturnType<typeof invoice>['earlyPayment'] = null) {
  signedIn('receivables', ['BILL', 'PROPOSE']);
  answers('get', '/api/customers', [{ code: 'C', name: 'Customer', town: 'Town' }]);
  answers('get', '/api/invoices', {
    rows: [{ ...invoice('IN-1', '100.00'), earlyPayment: early }, invoice('IN-2', '50.00')],
    next: null,
  });
  answers('get', '/api/customers/C/credit', { credit });
  const hands = show(<RecordPayment />, { path: '/billing/receive', at: '/billing/receive' });
  await hands.user.type(screen.getByRole('combobox', { name: 'Customer' }), 'cust{Enter}');
  await screen.findByText('IN-1');
  return hands;
}

const amount = () => screen.getByLabelText('Amount received');
const record = () => screen.getByRole('button', { name: 'Record the payment' });

describe('a payment', () => {
  it('is recorded with what is set against each invoice, as it was typed', async () => {
    const { user } = await open();
    const sent = answers('post', '/api/payments', { number: 'PY-1', amount: '120.00', left: '0.00' });
    expect(record()).toBeDisabled();
    await user.type(amount(), '120');
    await user.click(within(screen.getByRole('row', { name: /IN-1/ })).getByRole('button', { name: 'all' }));
    await user.type(screen.getByLabelText('Allocate to IN-2'), '20');
    await user.click(record());
    expect(await screen.findByText(/Payment PY-1: € 120.00, all allocated/)).toBeInTheDocument();
    expect(sent[0]?.body).toEqual({
      customer: 'C',
      amount: '120',
      allocate: [
        { invoice: 'IN-1', amount: '100.00' },
        { invoice: 'IN-2', amount: '20' },
      ],
    });
    expect(amount()).toHaveValue('');
  });

  it('takes the discount with what settles the rest, and asks why where its days are over', async () => {
    const { user } = await open('0.00', { percent: '2.00', until: '2026-02-11', discount: '2.00', due: '98.00' });
    const sent = answers('post', '/api/payments', { number: 'PY-2', amount: '98.00', left: '0.00' });
    await user.type(amount(), '98');
    await user.click(screen.getByRole('button', { name: 'IN-1 less its discount' }));
    expect(screen.getByLabelText('Allocate to IN-1')).toHaveValue('98.00');
    await user.type(screen.getByLabelText('Why the discount is granted after its days'), 'by telephone');
    await user.click(record());
    expect(await screen.findByText(/Payment PY-2/)).toBeInTheDocument();
    expect(sent[0]?.body).toEqual({
      customer: 'C',
      amount: '98',
      allocate: [{ invoice: 'IN-1', amount: '98.00', discount: true }],
      reason: 'by telephone',
    });
  });

  it('that is refused stays as it was typed', async () => {
    const { user } = await open();
    answers('post', '/api/payments', refusal('over-allocated', 'IN-2 is open with EUR 50.00.'), 409);
    await user.type(amount(), '60');
    await user.type(screen.getByLabelText('Allocate to IN-2'), '60');
    await user.click(record());
    expect(await screen.findByRole('alert')).toHaveTextContent('IN-2 is open with EUR 50.00.');
    expect(amount()).toHaveValue('60');
    expect(screen.getByLabelText('Allocate to IN-2')).toHaveValue('60');
  });

  it('may be credit of the customer’s, where there is some and no money came', async () => {
    const { user } = await open('30.00');
    const use = screen.getByRole('button', { name: 'Use customer credit' });
    expect(use).toBeDisabled();
    await user.type(screen.getByLabelText('Allocate to IN-2'), '30');
    expect(use).toBeEnabled();
    await user.type(amount(), '1');
    expect(use).toBeDisabled();
  });
});
