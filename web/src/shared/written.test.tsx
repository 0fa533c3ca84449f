import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test } from 'vitest';
import { show } from '../test/page';
import { Problem } from './api/http';
import { Choice, Field, TextLine } from './ui/fields';
import { useWritten } from './written';

function Form({ onSend }: { onSend: (values: { name: string; kind: 'A' | 'B' }) => Problem | null }) {
  const written = useWritten<{ name: string; kind: 'A' | 'B' }>({ name: '', kind: 'A' });
  return (
    <>
      <Field of="name" label="Name" error={written.wrong('name')}>
        <TextLine id="name" maxLength={4} {...written.of('name')} />
      </Field>
      <Choice
        label="Kind"
        of={[
          ['A', 'first'],
          ['B', 'second'],
        ]}
        {...written.of('kind')}
      />
      <button
        onClick={() => {
          const problem = onSend(written.values);
          if (problem) written.refused(problem);
        }}
      >
        Send
      </button>
      {written.touched && <p>something is written</p>}
    </>
  );
}

test('what is written is what is sent', async () => {
  let sent = {};
  show(
    <Form
      onSend={(values) => {
        sent = values;
        return null;
      }}
    />,
  );
  expect(screen.queryByText('something is written')).toBeNull();
  await userEvent.type(screen.getByLabelText('Name'), 'Rowan');
  await userEvent.selectOptions(screen.getByLabelText('Kind'), 'second');
  await userEvent.click(screen.getByText('Send'));
  expect(sent).toEqual({ name: 'Rowa', kind: 'B' });
  expect(screen.getByText('something is written')).toBeTruthy();
});

test('what the server misses in a field is said with it, until it is written anew', async () => {
  show(<Form onSend={() => new Problem(400, 'incomplete', 'Incomplete.', '', [], { name: 'needs a name' })} />);
  const name = screen.getByLabelText('Name');
  await userEvent.click(screen.getByText('Send'));
  expect(screen.getByText('needs a name')).toBeTruthy();
  expect(name.closest('.field')?.className).toContain('wrong');
  expect(name.getAttribute('aria-invalid')).toBe('true');
  expect(name.getAttribute('aria-describedby')).toBe(screen.getByText('needs a name').id);
  await userEvent.type(name, 'x');
  expect(screen.queryByText('needs a name')).toBeNull();
});
