import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../test/page';
import { whileReadAgain } from './busy';
import { useCursor, useKeys } from './keys';
import { SelectAll, SelectBox, useSelectedBy } from './selection';

function Page({ onKey, onLater }: { onKey: () => void; onLater?: () => void }) {
  useKeys({ w: onKey, 'shift+w': onLater, 'ctrl+enter': onLater });
  return (
    <>
      <input aria-label="text" />
      <button>a button</button>
      <input type="checkbox" aria-label="box" />
    </>
  );
}

describe('a key', () => {
  it('is for the page where nobody types', async () => {
    const pressed = vi.fn();
    const { user } = show(<Page onKey={pressed} />);
    await user.keyboard('w');
    await user.click(screen.getByLabelText('text'));
    await user.keyboard('w');
    expect(pressed).toHaveBeenCalledTimes(1);
    expect(screen.getByLabelText('text')).toHaveValue('w');
  });

  it('is not for the page while a button has the focus, but while a box has', async () => {
    const pressed = vi.fn();
    const { user } = show(<Page onKey={pressed} />);
    screen.getByRole('button').focus();
    await user.keyboard('w');
    expect(pressed).not.toHaveBeenCalled();
    screen.getByLabelText('box').focus();
    await user.keyboard('w');
    expect(pressed).toHaveBeenCalledTimes(1);
  });

  it('with Shift is another one where there is one', async () => {
    const plain = vi.fn();
    const shifted = vi.fn();
    const { user } = show(<Page onKey={plain} onLater={shifted} />);
    await user.keyboard('{Shift>}W{/Shift}');
    expect([plain.mock.calls.length, shifted.mock.calls.length]).toEqual([0, 1]);
  });

  it('with Control is for the page also while one types', async () => {
    const pressed = vi.fn();
    const { user } = show(<Page onKey={vi.fn()} onLater={pressed} />);
    await user.click(screen.getByLabelText('text'));
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(pressed).toHaveBeenCalledTimes(1);
  });

  it('waits until what a command changed is shown', async () => {
    const pressed = vi.fn();
    const { user } = show(<Page onKey={pressed} />);
    let shown: () => void = () => undefined;
    whileReadAgain(new Promise<void>((done) => (shown = done)));
    await user.keyboard('w');
    expect(pressed).not.toHaveBeenCalled();
    shown();
    await vi.waitFor(() => expect(pressed).toHaveBeenCalledTimes(1), { timeout: 30_000 });
  });
});

const ROWS = ['one', 'two', 'three'];

function List({ onOpen }: { onOpen: (row: string) => void }) {
  const [at] = useCursor(ROWS, onOpen);
  return <p>at {ROWS[at]}</p>;
}

describe('the cursor of a list', () => {
  it('goes down and up, stays within the list, and opens where it stands', async () => {
    const opened = vi.fn();
    const { user } = show(<List onOpen={opened} />);
    await user.keyboard('jj');
    expect(screen.getByText('at three')).toBeVisible();
    await user.keyboard('jk{Enter}');
    expect(screen.getByText('at two')).toBeVisible();
    expect(opened).toHaveBeenCalledExactlyOnceWith('two');
  });
});

function Selecting({ onOpen }: { onOpen: (row: string) => void }) {
  const selection = useSelectedBy(ROWS, (row) => row);
  useCursor(ROWS, onOpen, { x: selection.toggle });
  return (
    <>
      <p>chosen: {selection.chosen.join(', ')}</p>
      <table>
        <thead>
          <tr>
            <SelectAll selection={selection} />
          </tr>
        </thead>
        <tbody>
          {ROWS.map((row) => (
            <tr key={row}>
              <td>
                <SelectBox name={row} checked={selection.has(row)} onToggle={() => selection.toggle(row)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

describe('a selection', () => {
  it('is made by key and by mouse, in the sequence of the list', async () => {
    const { user } = show(<Selecting onOpen={vi.fn()} />);
    await user.click(screen.getByLabelText('Select three'));
    await user.keyboard('x');
    expect(screen.getByText('chosen: one, three')).toBeVisible();
    await user.keyboard('x');
    expect(screen.getByText('chosen: three')).toBeVisible();
  });

  it('is all, or none', async () => {
    const { user } = show(<Selecting onOpen={vi.fn()} />);
    const all = screen.getByLabelText('Select all');
    await user.click(all);
    expect(screen.getByText('chosen: one, two, three')).toBeVisible();
    expect(all).toBeChecked();
    await user.click(all);
    expect(screen.getByText(/^chosen:$/)).toBeVisible();
  });
});
