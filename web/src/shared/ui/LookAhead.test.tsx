import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/page';
import { LookAhead } from './LookAhead';

const ITEMS = ['bolt', 'bolt, long', 'nut'];

function look(load: (text: string) => Promise<string[]>, many = false) {
  const taken = vi.fn();
  const takenMany = vi.fn();
  const { user } = show(
    <>
      <LookAhead
        name="items"
        label="Item"
        shown=""
        load={load}
        keyOf={(hit) => hit}
        row={(hit) => <span>{hit}</span>}
        onTake={taken}
        onTakeMany={many ? takenMany : undefined}
      />
      <input aria-label="next" />
    </>,
  );
  return { user, taken, takenMany, field: screen.getByRole('combobox', { name: 'Item' }) };
}

const starting = (text: string) => Promise.resolve(ITEMS.filter((item) => item.startsWith(text)));

describe('what is found while one types', () => {
  it('is chosen by the arrows and taken by Enter', async () => {
    const { user, taken, field } = look(starting);
    await user.type(field, 'bolt');
    expect(await screen.findAllByRole('option')).toHaveLength(2);
    await user.keyboard('{ArrowDown}');
    const second = screen.getByRole('option', { name: 'bolt, long' });
    expect(second).toHaveAttribute('aria-selected', 'true');
    expect(field).toHaveAttribute('aria-activedescendant', second.id);
    await user.keyboard('{Enter}');
    expect(taken).toHaveBeenCalledExactlyOnceWith('bolt, long');
    expect(screen.queryByRole('option')).toBeNull();
  });

  it('is taken by Tab, which goes on', async () => {
    const { user, taken, field } = look(starting);
    await user.type(field, 'nut');
    await screen.findByRole('option');
    await user.tab();
    expect(taken).toHaveBeenCalledExactlyOnceWith('nut');
    expect(screen.getByLabelText('next')).toHaveFocus();
  });

  it('is taken by the mouse', async () => {
    const { user, taken, field } = look(starting);
    await user.type(field, 'b');
    await user.click(await screen.findByRole('option', { name: 'bolt, long' }));
    expect(taken).toHaveBeenCalledExactlyOnceWith('bolt, long');
  });

  it('is nothing after Escape', async () => {
    const { user, taken, field } = look(starting);
    await user.type(field, 'b');
    await screen.findAllByRole('option');
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('option')).toBeNull();
    expect(field).toHaveValue('');
    expect(taken).not.toHaveBeenCalled();
  });

  it('is taken when it comes after Enter, but never for an earlier text', async () => {
    let found: (items: string[]) => void = () => undefined;
    const { user, taken, field } = look((text) =>
      text === 'nut' ? new Promise((answered) => (found = answered)) : Promise.resolve(['something else']),
    );
    await user.type(field, 'nut{Enter}');
    expect(taken).not.toHaveBeenCalled();
    found(['nut']);
    await vi.waitFor(() => expect(taken).toHaveBeenCalledExactlyOnceWith('nut'), { timeout: 30_000 });
  });

  it('is marked by Shift and Enter where several can be taken', async () => {
    const { user, takenMany, field } = look(starting, true);
    await user.type(field, 'bolt');
    await screen.findAllByRole('option');
    await user.keyboard('{Shift>}{Enter}{Enter}{/Shift}');
    expect(screen.getAllByLabelText('marked')).toHaveLength(2);
    await user.keyboard('{Enter}');
    expect(takenMany).toHaveBeenCalledExactlyOnceWith(['bolt', 'bolt, long']);
  });

  it('says what kept it from being found', async () => {
    const { user, field } = look(() => Promise.resolve([]));
    await user.type(field, 'x');
    expect(await screen.findByText('Nothing found')).toBeVisible();
  });
});
