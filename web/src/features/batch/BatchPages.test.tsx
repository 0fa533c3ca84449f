import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show, signedIn } from '../../test/page';
import { answers } from '../../test/server';
import { BatchLog } from './BatchLog';
import { BatchPage } from './BatchPages';

const entry = (no: number, state: string) => ({
  no,
  subjectKind: 'ORDER',
  subject: `SO-${no}`,
  state,
  code: '',
  sentence: state === 'LEFT_OUT' ? 'Left out by controller.' : '',
  resultKind: null,
  result: null,
});

const batch = (changed: object) => ({
  id: 5,
  kind: 'STAGING',
  at: '2026-03-02T10:00:00Z',
  by: 'controller',
  reason: '',
  waiting: 2,
  done: 1,
  refused: 0,
  leftOut: 0,
  stoppedBy: null,
  following: null,
  results: [],
  entries: [entry(1, 'DONE'), entry(2, 'WAITING'), entry(3, 'WAITING')],
  next: null,
  ...changed,
});

describe('what is done many times over', () => {
  it('is stopped, has a row left out, and goes on', async () => {
    signedIn('controller', ['PROPOSE']);
    answers('get', '/api/batches/5', batch({}));
    const stopped = answers('post', '/api/batches/5/stops', batch({ stoppedBy: 'controller' }));
    const { user } = show(<BatchPage />, { path: '/batches/:id', at: '/batches/5' });
    expect(await screen.findByText(/2 waiting\. You can leave this page/)).toBeVisible();
    answers('get', '/api/batches/5', batch({ stoppedBy: 'controller' }));
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    expect(await screen.findByText(/Stopped by controller; 2 waiting\./)).toBeVisible();
    expect(stopped).toHaveLength(1);

    const left = answers('post', '/api/batches/5/entries/3/exclusions', batch({}));
    answers(
      'get',
      '/api/batches/5',
      batch({
        waiting: 1,
        leftOut: 1,
        stoppedBy: 'controller',
        entries: [entry(1, 'DONE'), entry(2, 'WAITING'), entry(3, 'LEFT_OUT')],
      }),
    );
    await user.click(screen.getByRole('button', { name: 'Leave SO-3 out' }));
    expect(await screen.findByText('Left out by controller.')).toBeVisible();
    expect(screen.getByText(/1 left out\. Stopped by controller; 1 waiting\./)).toBeVisible();
    expect(left).toHaveLength(1);

    const resumed = answers('post', '/api/batches/5/resumptions', batch({}));
    answers('get', '/api/batches/5', batch({ waiting: 0, done: 2, leftOut: 1 }));
    await user.click(screen.getByRole('button', { name: 'Go on' }));
    await waitFor(() =>
      expect(screen.getByRole('status')).toHaveTextContent('Of 3 orders, 2 went through, 1 left out.'),
    );
    expect(resumed).toHaveLength(1);
    expect(screen.queryByRole('button', { name: /Stop|Go on/ })).toBeNull();
  });

  it('is gone on with by a key: what was staged is put on paper and sent off', async () => {
    signedIn('controller', ['PROPOSE']);
    const staged = batch({ waiting: 0, done: 2, entries: [], following: 'DEPARTURE', results: ['D-1', 'D-2'] });
    const left = batch({ id: 6, kind: 'DEPARTURE', waiting: 0, done: 2, entries: [], following: 'BILLING' });
    answers('get', '/api/batches/5', staged);
    answers('get', '/api/batches/6', left);
    const printed = answers('post', '/api/prints', { id: 1, sheets: [] });
    const gone = answers('post', '/api/batches/5/next-steps', left);
    vi.spyOn(window, 'open').mockReturnValue({ location: {}, close: () => undefined } as unknown as Window);
    const { user } = show(<BatchLog batch={staged as never} onClose={() => undefined} />);
    expect(await screen.findByRole('button', { name: 'Print packing slips P' })).toBeVisible();
    await user.keyboard('p');
    await waitFor(() =>
      expect(printed.map((one) => one.body)).toEqual([{ paper: 'PACKING_SLIP', numbers: ['D-1', 'D-2'] }]),
    );
    await user.keyboard('n');
    expect(await screen.findByText('Bulk departure')).toBeVisible();
    expect(gone).toHaveLength(1);
    expect(await screen.findByRole('button', { name: 'Bill what left N' })).toBeVisible();
  });
});
