import { screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { show } from '../../test/page';
import { takeDecimalMark } from '../figures';
import { FigureInput } from './FigureInput';

function Field({ start = '', onChange }: { start?: string; onChange: (to: string) => void }) {
  const [value, setValue] = useState(start);
  return (
    <FigureInput
      label="Amount"
      value={value}
      onChange={(to) => {
        setValue(to);
        onChange(to);
      }}
    />
  );
}

const type = async (text: string, start?: string) => {
  const sent = vi.fn();
  const { user } = show(<Field start={start} onChange={sent} />);
  const field = screen.getByLabelText('Amount');
  await user.clear(field);
  await user.type(field, text);
  return { field, sent: sent.mock.lastCall?.[0] as string };
};

describe('a figure', () => {
  afterEach(() => takeDecimalMark('POINT'));

  it('is sent with a point and without groups, and stays as it was typed', async () => {
    const { field, sent } = await type('1,234.50');
    expect(sent).toBe('1234.50');
    expect(field).toHaveValue('1,234.50');
    expect(screen.getByRole('status')).toHaveTextContent('read as 1234.50');
  });

  it('is read by the mark of the company', async () => {
    takeDecimalMark('COMMA');
    const { sent } = await type('1.234,5');
    expect(sent).toBe('1234.5');
  });

  it('that could be read in two ways is marked, and sent as it stands', async () => {
    const { field, sent } = await type('12,34');
    expect(sent).toBe('12,34');
    expect(field).toBeInvalid();
    expect(field).toHaveAccessibleDescription('no figure; decimals follow a point');
  });

  it('that only the server would read is sent so that it is not', async () => {
    takeDecimalMark('COMMA');
    const { field, sent } = await type('12.50');
    expect(field).toBeInvalid();
    expect(field).toHaveValue('12.50');
    expect(sent).toBe('“12.50”');
  });

  it('from the server is shown by the mark of the company', () => {
    takeDecimalMark('COMMA');
    show(<FigureInput label="Amount" value="12.50" onChange={vi.fn()} />);
    expect(screen.getByLabelText('Amount')).toHaveValue('12,50');
  });
});
