import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { show } from '../../test/page';
import { OfTab } from '.';

const of = { one: <p>The first</p>, two: <p>The second</p> };

test('the tab that the address names is shown alone', async () => {
  show(<OfTab tab="two" of={of} />);
  expect(await screen.findByText('The second')).toBeDefined();
  expect(screen.queryByText('The first')).toBeNull();
});

test.each(['three', '', 'constructor', 'toString'])('an address that names no tab says so: "%s"', async (tab) => {
  show(<OfTab tab={tab} of={of} />);
  expect(await screen.findByText('This page does not exist.')).toBeDefined();
});
