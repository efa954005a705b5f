import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import './styles';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { ApiError } from './api/client';
import { App } from './App';
import { theme } from './theme';
import { loadTexts } from './words';

const queries = new QueryClient({
  defaultOptions: {
    // Dorbin may be reached where the internet is not.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: Infinity, // the server says when something changes
      retry: (failures, error) => failures < 3 && !(error instanceof ApiError && error.status >= 400),
    },
  },
});

// What changes is drawn with the next frame, not after a turn of the timers.
notifyManager.setScheduler(queueMicrotask);

const root = document.getElementById('root');
if (!root) throw new Error('The page has no root element.');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <MantineProvider theme={theme} defaultColorScheme="auto">
        <Notifications position="top-center" limit={4} classNames={{ root: 'messages' }} />
        <App />
      </MantineProvider>
    </QueryClientProvider>
  </StrictMode>,
);

loadTexts().catch(() => undefined); // for what is opened next; it is tried again there
