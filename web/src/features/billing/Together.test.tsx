import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { column, listed, listRow } from '../../test/list';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { Invoices } from './Invoices';
import { Payments } from './Payments';
import { WriteOffs } from './WriteOffs';

const batch = (kind: string) => ({
  id: 5,
  kind,
  at: '2026-03-02T10:00:00Z',
  by: 'controller',
  reason: 'r',
  waiting: 0,
  done: 1,
  refused: 0,
  leftOut: 0,
  stoppedBy: null,
  following: null,
  results: [],
  entries: [],
  next: null,
});

const NUMBER = column('number', 'Document', 'TEXT', { opens: 'DOCUMENT' });

function lists() {
  signedIn('controller', ['BILL', 'PROPOSE']);
  listed(
    'write-offs',
    [NUMBER],
    ['W-1', 'W-2', 'W-3'].map((number) => listRow('WRITE_OFF', number)),
  );
  answers('get', '/api/unwind/reasons', [
    { code: 'entered-in-error', words: 'Entered in error' },
    { code: 'other', words: 'Other' },
  ]);
}

describe('documents of a list', () => {
  it('are taken back together: seen before, only those that can be, with one reason', async () => {
    lists();
    const looked = answers('post', '/api/unwind/together/previews', {
      total: '0.40',
      possible: 1,
      documents: [
        { number: 'W-1', amount: '0.40', steps: ['reverse-write-off'], code: null, why: null, fingerprint: 'f1' },
        {
          number: 'W-2',
          amount: '0.00',
          steps: [],
          code: 'already-reversed',
          why: 'Already taken back.',
          fingerprint: null,
        },
      ],
    });
    const sent = answers('post', '/api/unwind/together/executions', batch('UNWINDING'));
    answers('get', '/api/batches/5', batch('UNWINDING'));
    const { user } = show(<WriteOffs />);
    await screen.findByText('W-1');
    await user.keyboard('xjxu');
    const dialog = await screen.findByRole('dialog');
    expect(await within(dialog).findByText(/0.40 would be taken back on one write-off/)).toBeInTheDocument();
    expect(within(dialog).getByText('Already taken back.')).toBeInTheDocument();
    expect(within(dialog).getAllByRole('row')[0], 'what can’t be is seen first').toHaveTextContent('W-2');
    expect(looked[0]?.body).toEqual({ kind: 'WRITE_OFF', intent: 'take-back-write-off', numbers: ['W-1', 'W-2'] });
    await user.type(within(dialog).getByLabelText('Remark'), 'paid after all{Enter}');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({
      kind: 'WRITE_OFF',
      intent: 'take-back-write-off',
      documents: [{ number: 'W-1', fingerprint: 'f1' }],
      reasonCode: 'entered-in-error',
      reason: 'paid after all',
    });
    expect(sent[0]?.key).toBeTruthy();
    expect(await screen.findByText('Bulk unwinding')).toBeInTheDocument();
  });

  it('are given the first of the company’s own reasons where its rules know no error of entry', async () => {
    lists();
    answers('get', '/api/unwind/reasons', [
      { code: 'own-reason', words: 'A reason of our own' },
      { code: 'other', words: 'Other' },
    ]);
    answers('post', '/api/unwind/together/previews', {
      total: '0.40',
      possible: 1,
      documents: [
        { number: 'W-1', amount: '0.40', steps: ['reverse-write-off'], code: null, why: null, fingerprint: 'f1' },
      ],
    });
    const sent = answers('post', '/api/unwind/together/executions', batch('UNWINDING'));
    answers('get', '/api/batches/5', batch('UNWINDING'));
    const { user } = show(<WriteOffs />);
    await screen.findByText('W-1');
    await user.keyboard('xu');
    const dialog = await screen.findByRole('dialog');
    await user.click(await within(dialog).findByText('Take back one write-off', { selector: 'button' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ reasonCode: 'own-reason', reason: 'A reason of our own' }),
    );
  });

  it('stand beside others in a list: credits among payments are selected by no key, and undone as what they are', async () => {
    signedIn('controller', ['BILL', 'PROPOSE']);
    listed(
      'payments',
      [NUMBER],
      [listRow('PAYMENT', 'P-1'), listRow('CREDIT_NOTE', 'C2026-00001'), listRow('PAYMENT', 'P-2')],
    );
    const { user, place } = show(<Payments />);
    await user.click(await screen.findByLabelText('Select all'));
    expect(screen.queryByLabelText('Select C2026-00001')).toBeNull();
    expect(screen.getByLabelText('Select all')).toBeChecked();
    expect(screen.getByText('Take back 2 selected', { exact: false })).toBeInTheDocument();
    await user.keyboard('xjx');
    expect(screen.getByText('Take back 1 selected', { exact: false })).toBeInTheDocument();
    await user.keyboard('jxku');
    expect(place()).toBe('/unwind/CREDIT_NOTE/C2026-00001');
  });

  it('with none selected, U is for the row that the keys stand on', async () => {
    lists();
    const { user, place } = show(<WriteOffs />);
    await screen.findByText('W-1');
    await user.keyboard('ju');
    expect(place()).toBe('/unwind/WRITE_OFF/W-2');
  });

  it('are opened on their own pages, and a payment is recorded for the customer of the row', async () => {
    signedIn('receivables', ['BILL']);
    listed(
      'invoices',
      [NUMBER, column('customer', 'Customer', 'CODE'), column('disputed', 'Disputed', 'FLAG')],
      [listRow('INVOICE', '2026-00007', { customer: { code: 'C/7', name: 'Thole Pin Yard' }, disputed: 'YES' })],
    );
    const { user, place } = show(<Invoices />);
    expect(await screen.findByRole('link', { name: '2026-00007' })).toHaveAttribute(
      'href',
      '/billing/invoice/2026-00007',
    );
    expect(screen.getByText('disputed')).toBeVisible();
    expect(screen.getByRole('link', { name: 'Record its payment' })).toHaveAttribute(
      'href',
      '/billing/receive?customer=C%2F7',
    );
    await user.keyboard('{Enter}');
    expect(place()).toBe('/billing/invoice/2026-00007');
  });

  it('are written off together, never without a reason, and looked at anew for another kind', async () => {
    lists();
    const looked = answers('post', '/api/batches/write-offs/previews', {
      total: '0.40',
      possible: 1,
      invoices: [
        { invoice: '2026-00001', customer: 'C', version: 3, amount: '0.40', code: null, why: null },
        {
          invoice: '2026-00002',
          customer: 'C',
          version: 4,
          amount: '60.50',
          code: 'limit-of-person',
          why: 'Too much.',
        },
      ],
    });
    const sent = answers('post', '/api/batches/write-offs', batch('WRITING_OFF'));
    answers('get', '/api/batches/5', batch('WRITING_OFF'));
    listed(
      'invoices',
      [NUMBER, column('open', 'Open', 'AMOUNT')],
      [listRow('INVOICE', '2026-00001', { open: '0.40' }), listRow('INVOICE', '2026-00002', { open: '60.50' })],
    );
    const { user } = show(<Invoices />);
    await user.click(await screen.findByLabelText('Select all'));
    await user.click(screen.getByRole('button', { name: 'Write off 2 selected' }));
    const dialog = await screen.findByRole('dialog');
    expect(await within(dialog).findByText('Too much.')).toBeInTheDocument();
    const give = within(dialog).getByRole('button', { name: /^Write off only one invoice/ });
    expect(give).toBeDisabled();
    await user.selectOptions(within(dialog).getByLabelText('As'), 'BAD_DEBT');
    await waitFor(() => expect(looked).toHaveLength(2));
    expect(looked[1]?.body).toEqual({ kind: 'BAD_DEBT', invoices: ['2026-00001', '2026-00002'] });
    await user.type(within(dialog).getByLabelText('Reason for all'), 'insolvent');
    await user.click(await within(dialog).findByRole('button', { name: /^Write off only one invoice/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({
      kind: 'BAD_DEBT',
      invoices: [{ invoice: '2026-00001', version: 3, amount: '0.40' }],
      reason: 'insolvent',
    });
  });
});
