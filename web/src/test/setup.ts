import '@testing-library/jest-dom/vitest';
import { notifications } from '@mantine/notifications';
import { cleanup, configure } from '@testing-library/react';
import { afterAll, afterEach, beforeAll } from 'vitest';
import { queries } from '../shared/api/queries';
import { server } from './server';

// jsdom draws nothing, and so nothing is dragged in it
HTMLElement.prototype.setPointerCapture = () => undefined;

// a busy machine is slow, not wrong
configure({ asyncUtilTimeout: 30_000 });

// a question that no test answers is a mistake of the test
beforeAll(() => server.listen({ onUnhandledRequest: 'error' }));
afterEach(() => {
  cleanup();
  notifications.clean();
  server.resetHandlers();
  queries.clear();
  sessionStorage.clear();
  localStorage.clear();
});
afterAll(() => server.close());
