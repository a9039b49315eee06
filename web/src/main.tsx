import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { registerSW } from 'virtual:pwa-register';
import { beginAt } from './api/ahead';
import { startClock } from './api/clock';
import { hearAnswers } from './api/queries';
import { startOutbox } from './outbox/outbox';
import { store } from './outbox/store';
import { router } from './router';
import { hearSignOut } from './session/access';
import { applyTheme } from './session/identity';
import { keepFocus } from './ui/focus';
import './styles.css';

void store().catch(() => {});
beginAt(window.location.pathname);
// Nothing is held back silently for want of a network: what can be kept here is kept, and the rest says that it cannot be done.
const client = new QueryClient({
  defaultOptions: {
    queries: { networkMode: 'always', retry: 1, staleTime: 5000, refetchOnWindowFocus: true },
    mutations: { networkMode: 'always' },
  },
});
hearAnswers(client);
hearSignOut(client);
applyTheme();
// Paper is white, by night too.
window.addEventListener('beforeprint', () => (document.documentElement.dataset.theme = 'day'));
window.addEventListener('afterprint', applyTheme);
startOutbox();
startClock();
keepFocus();
registerSW({ immediate: true });
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
