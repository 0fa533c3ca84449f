import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { column, listed, listRow } from '../../test/list';
import { show, signedIn } from '../../test/page';
import { DataList } from './DataList';

test('Shift X selects all that are shown, or none, and Ctrl Enter does with them what stands first below', async () => {
  signedIn('controller', []);
  listed(
    'orders',
    [column('number', 'Order', 'TEXT', { opens: 'ORDER' })],
    ['SO-1', 'SO-2'].map((number) => listRow('ORDER', number)),
  );
  const done: string[][] = [];
  const { user } = show(
    <DataList
      name="orders"
      selected={(chosen) => (
        <div className="bar">
          <button
            className="button"
            disabled={chosen.length === 0}
            onClick={() => done.push(chosen.map((one) => one.opens))}
          >
            Do it
          </button>
          <button className="button first" onClick={() => done.push(['something else'])}>
            Something else
          </button>
        </div>
      )}
    />,
    { path: '/orders', at: '/orders?view=' },
  );
  await screen.findByText('SO-1');
  await user.keyboard('{Control>}{Enter}{/Control}');
  expect(done).toEqual([]);
  await user.keyboard('{Shift>}X{/Shift}');
  await user.keyboard('{Control>}{Enter}{/Control}');
  expect(done).toEqual([['SO-1', 'SO-2']]);
  await user.keyboard('{Shift>}X{/Shift}');
  expect(screen.getByRole('button', { name: 'Do it' })).toBeDisabled();
});
