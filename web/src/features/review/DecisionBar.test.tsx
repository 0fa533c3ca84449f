import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { DecisionBar } from './DecisionBar';
import type { Sheet } from './api';

type Action = Sheet['actions'][number]['action'];

const NOT_YOURS = 'Only a controller or the finance lead decides on orders.';

const allowed = (...actions: Action[]) => actions.map((action) => ({ action, refused: null }));
const refused = (...actions: Action[]) => actions.map((action) => ({ action, refused: NOT_YOURS }));

const sheet = (state: string, actions: Sheet['actions'], flows: Partial<Sheet['flows'][number]>[] = []) =>
  ({
    order: { number: 'SO-1', version: 7, state, author: 'clerk', lastEditor: 'clerk' },
    findings: [
      { check: 'credit-limit', title: 'Credit limit', sentence: 'Over by 10.', severity: 'STOP', state: 'OPEN' },
    ],
    flows: flows.map((flow) => ({ reserved: '0', toBill: '0', ...flow })),
    documents: [],
    approval: null,
    actions,
  }) as unknown as Sheet;

const names = () => screen.getAllByRole('button').map((button) => button.textContent.replace(/\s+\S$/, '').trim());

describe('the bar below an order', () => {
  it('offers what the server offers, in its sequence', () => {
    signedIn('controller', ['DECIDE']);
    show(<DecisionBar sheet={sheet('HELD', allowed('WAIVE', 'CLEAR', 'SEND_BACK', 'DECLINE'))} />);
    expect(names()).toEqual(['Waive', 'Clear', 'Send back', 'Decline', 'Trail', 'Unwind']);
    screen.getAllByRole('button').forEach((button) => expect(button).toBeEnabled());
  });

  it('says why somebody cannot, and no key does it either', async () => {
    signedIn('clerk', ['ENTER', 'PROPOSE']);
    const { user } = show(<DecisionBar sheet={sheet('HELD', refused('WAIVE', 'SEND_BACK', 'DECLINE'))} />);
    const waive = screen.getByRole('button', { name: /^Waive/ });
    expect(waive).toBeDisabled();
    expect(waive).toHaveAttribute('title', NOT_YOURS);
    await user.keyboard('wsd');
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('sends the version that was seen with the reason that was given', async () => {
    signedIn('controller', ['DECIDE']);
    const { user } = show(<DecisionBar sheet={sheet('HELD', allowed('WAIVE', 'DECLINE'))} />);
    const sent = answers('post', '/api/orders/SO-1/waivers', sheet('CLEARED', []));
    await user.keyboard('w');
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByRole('button', { name: /^Waive/ })).toBeDisabled();
    await user.type(within(dialog).getByLabelText('Reason'), 'paid by phone{Enter}');
    expect(await screen.findByText('Order SO-1 is cleared.')).toBeInTheDocument();
    expect(sent).toHaveLength(1);
    expect(sent[0]?.body).toEqual({ version: 7, findings: ['credit-limit'], reason: 'paid by phone' });
    expect(sent[0]?.key).toMatch(/^[0-9a-f-]{36}$/);
  });

  it('gives the key C to the approval before the clearing, and leaves it to a selection', async () => {
    signedIn('controller', ['DECIDE']);
    const awaiting = sheet('AWAITING_APPROVAL', allowed('APPROVE', 'SEND_BACK'));
    const { user } = show(<DecisionBar sheet={awaiting} />);
    await user.keyboard('c');
    expect(await screen.findByRole('dialog')).toHaveTextContent('Approve order SO-1');
  });

  it('leads to the next step of a cleared order for whoever may take it', () => {
    signedIn('warehouse', ['MOVE_GOODS', 'PROPOSE']);
    show(<DecisionBar sheet={sheet('CLEARED', [], [{ reserved: '5', toBill: '2' }])} />);
    expect(screen.getByRole('button', { name: 'Stage reserved goods' })).toBeEnabled();
    expect(screen.getByRole('button', { name: 'Create invoice' })).toBeDisabled();
  });

  it('lets a draft be submitted by whoever writes orders', () => {
    signedIn('auditor', []);
    show(<DecisionBar sheet={sheet('DRAFT', [])} />);
    expect(screen.getByRole('button', { name: 'Submit' })).toBeDisabled();
  });
});
