import './app/mantine';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import './app/global.css';
import './app/lists.css';
import './app/pages.css';
import './app/measures.css';
import './app/narrow.css';
import { MantineProvider } from '@mantine/core';
import { QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { router } from './app/routes';
import { theme } from './app/theme';
import { queries } from './shared/api/queries';

// where messages are shown, once there are any
const Messages = lazy(() => import('./app/Messages').then((loaded) => ({ default: loaded.Messages })));

const root = document.getElementById('root');
if (!root) throw new Error('index.html has no element for the screens');
createRoot(root).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <Suspense>
        <Messages />
      </Suspense>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
