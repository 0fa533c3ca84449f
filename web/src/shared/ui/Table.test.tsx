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
      rowClass={(line) => (line.no === 1 ? 'muted' : undefined)}
    />,
  );
  expect(screen.getByRole('columnheader', { name: 'Price' })).toHaveClass('num');
  expect(screen.getByRole('row', { name: /Shock cord/ })).toHaveClass('muted');
  expect(screen.getByRole('row', { name: /Snap hook/ })).not.toHaveAttribute('class');
  rerender(<Table caption="Lines" of={LINES} keyOf={(line) => line.no} columns={columns(true)} isUnheaded />);
  expect(screen.queryAllByRole('columnheader')).toEqual([]);
  expect(screen.getAllByRole('row')).toHaveLength(2);
});
