import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { TodayPage } from './TodayPage';

const lane = (name: string, count: number, beyond = 0) => ({
  lane: name,
  count,
  value: '100.00',
  oldest: count > 0 ? '2026-02-28' : null,
  ages: [count, 0, 0, 0, 0],
  limitDays: 5,
  beyond,
});

const today = (lanes: object[]) => {
  signedIn('controller', []);
  answers('get', '/api/today', { undecided: '100.00', dueToday: '0.00', lanes, lookedAt: null, since: [] });
  answers('get', '/api/proofs/latest', { at: '2026-03-02T07:00:00Z', failing: 2 });
};

describe('the morning', () => {
  it('stands in groups, in the order of the work, and what is empty in one sentence', async () => {
    today([
      lane('past-due', 3, 1),
      lane('returns-to-credit', 0),
      lane('late', 2),
      lane('held', 4),
      lane('to-stage', 5),
      lane('staged', 0),
    ]);
    show(<TodayPage />);
    await screen.findByText('Held');
    expect(screen.getAllByRole('heading', { level: 2 }).map((one) => one.textContent)).toEqual([
      'Decide',
      'Move',
      'Bill, collect',
      'Books',
      'Recent events',
    ]);
    expect(screen.getAllByRole('textbox').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Held: limit in days',
      'Late: limit in days',
      'To stage: limit in days',
      'Invoices past due: limit in days',
    ]);
    expect(screen.getByText(/1 over/)).toBeVisible();
    const nothing = screen.getByText(/Nothing in:/);
    expect(nothing).toHaveTextContent('Nothing in: Returns to credit, Staged, not departed');
    expect(within(nothing).getByRole('link', { name: 'Returns to credit' })).toHaveAttribute(
      'href',
      '/returns/to-credit',
    );
    expect(screen.getByText('Statements that fail')).toBeVisible();
  });

  it('is gone through by keys in the sequence that is shown', async () => {
    today([lane('to-stage', 5), lane('held', 4)]);
    const { user, place } = show(<TodayPage />);
    await screen.findByText('Held');
    await user.keyboard('j{Enter}');
    expect(await screen.findByText('elsewhere')).toBeVisible();
    expect(place()).toBe('/goods');
  });
});
