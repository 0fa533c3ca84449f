import { render, screen, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { Table, type Column } from './Table';

type Line = { no: number; item: string; quantity: string };

const LINES: Line[] = [
  { no: 1, item: 'Shock cord', quantity: '2' },
  { no: 2, item: 'Snap hook', quantity: '-13' },
];

const columns = (prices: boolean): (Column<Line> | false)[] => [
  { head: 'Item', className: 'breaks', cell: (line) => line.item },
  {
    head: 'Quantity',
    num: true,
    className: (line) => (line.quantity < '0' ? 'error' : ''),
    cell: (line) => line.quantity,
  },
  prices && { head: 'Price', num: true, cell: () => '1.00' },
  { width: 'wide-40', cell: (_, at) => `row ${at + 1}` },
];

test('has a heading for each column that is there, and figures at the right', () => {
  render(<Table caption="Lines" of={LINES} keyOf={(line) => line.no} columns={columns(false)} />);
  const table = screen.getByRole('table', { name: 'Lines' });
  expect(
    within(table)
      .getAllByRole('columnheader')
      .map((head) => head.textContent),
  ).toEqual(['Item', 'Quantity']);
  const cells = within(within(table).getByRole('row', { name: /Snap hook/ })).getAllByRole('cell');
  expect(cells.map((cell) => [cell.textContent, cell.className])).toEqual([
    ['Snap hook', 'breaks'],
    ['-13', 'num error'],
    ['row 2', ''],
  ]);
});

test('shows a column where it is asked for, marks rows, and does without headings', () => {
  const { rerender } = render(
    <Table
      caption="Lines"
      of={LINES}
      keyOf={(line) => line.no}
      columns={columns(true)}
      rowOf={(line) => ({ className: line.no === 1 ? 'muted' : undefined })}
    />,
  );
  expect(screen.getByRole('columnheader', { name: 'Price' })).toHaveClass('num');
  expect(screen.getByRole('row', { name: /Shock cord/ })).toHaveClass('muted');
  expect(screen.getByRole('row', { name: /Snap hook/ })).not.toHaveAttribute('class');
  rerender(<Table caption="Lines" of={LINES} keyOf={(line) => line.no} columns={columns(true)} isUnheaded />);
  expect(screen.queryAllByRole('columnheader')).toEqual([]);
  expect(screen.getAllByRole('row')).toHaveLength(2);
});

test('a cell stands beside several rows or runs across several columns; a row may draw itself', () => {
  const first = (line: Line) => (line.no === 1 ? 2 : 0);
  const { container } = render(
    <Table
      caption="Lines"
      of={[...LINES, { no: 3, item: 'Thank you', quantity: '' }]}
      keyOf={(line) => line.no}
      drawn={(line) =>
        line.quantity ? undefined : (
          <tr>
            <td colSpan={3}>{line.item}</td>
          </tr>
        )
      }
      heads={
        <tr>
          <th colSpan={3}>All of them</th>
        </tr>
      }
      before={
        <tr>
          <td colSpan={3}>brought forward</td>
        </tr>
      }
      after={
        <tr>
          <td colSpan={3}>in all</td>
        </tr>
      }
      columns={[
        { beside: first, cell: () => 'order' },
        { across: (line) => (line.no === 2 ? 2 : 1), cell: (line) => line.item },
        {
          across: (line) => (line.no === 2 ? 0 : 1),
          does: (line) => ({ title: `line ${line.no}` }),
          cell: (line) => line.quantity,
        },
      ]}
    />,
  );
  expect(screen.getAllByRole('row').map((row) => row.textContent)).toEqual([
    'All of them',
    'brought forward',
    'orderShock cord2',
    'Snap hook',
    'Thank you',
    'in all',
  ]);
  expect(screen.getByRole('cell', { name: 'order' })).toHaveAttribute('rowspan', '2');
  expect(screen.getByRole('cell', { name: 'Snap hook' })).toHaveAttribute('colspan', '2');
  expect(screen.getByTitle('line 1')).toHaveTextContent('2');
  // no row has more or fewer columns than the others
  const widths = [...container.querySelectorAll('tr')].map((row) =>
    [...row.cells].reduce((sum, cell) => sum + cell.colSpan, 0),
  );
  expect(widths).toEqual([3, 3, 3, 2, 3, 3]);
});
