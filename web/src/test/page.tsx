import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { createMemoryRouter, parsePath, RouterProvider } from 'react-router';
import type { Schemas } from '../shared/api/http';
import { queries } from '../shared/api/queries';
import { takeCurrency } from '../shared/currency';
import { sessionQuery, type Readable, type Right } from '../shared/session';

const EVERYTHING_READ: Readable[] = ['GOODS', 'SELLING', 'SETTINGS', 'COSTS', 'BOOKS', 'ACCESS'];

/** Who sits before the screen; what they may is said by the server. */
export function signedIn(username: string, may: Right[], reads = EVERYTHING_READ) {
  const session: Schemas['SessionView'] = {
    username,
    displayName: username,
    role: 'CONTROLLER',
    standsInFor: [],
    may,
    reads,
    company: 'Company',
    currency: 'EUR',
    decimalMark: 'POINT',
    today: '2026-03-02',
    demo: false,
  };
  takeCurrency('EUR');
  queries.setQueryData(sessionQuery.queryKey, session);
}

let shown = 0;

/** Shows a page, or a part of one, as the application does, and answers whose hands are on it. */
export function show(element: ReactNode, { path = '/', at = '/' } = {}) {
  const router = createMemoryRouter(
    [
      { path, element },
      { path: '*', element: <p>elsewhere</p> },
    ],
    // what a page keeps goes by the key of its place: each test has its own
    { initialEntries: [{ ...parsePath(at), key: `test ${++shown}` }] },
  );
  render(
    <MantineProvider env="test">
      <Notifications />
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>,
  );
  return { user: userEvent.setup(), place: () => router.state.location.pathname + router.state.location.search };
}
