import './design/styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { ApiProblem, applyTheme } from './client/index.ts';
import { router } from './shell/router.tsx';

applyTheme();
matchMedia('(prefers-color-scheme: dark)').addEventListener('change', applyTheme);
// Style elements made by libraries must carry the nonce that the page was served with.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '');

const client = new QueryClient({
  defaultOptions: {
    // A server in the house answers also where the browser takes itself for offline.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      refetchOnReconnect: true,
      staleTime: 30_000,
      // What was refused is not asked again, unless it was only put off.
      retry: (failures, error) =>
        failures < 3 && (!(error instanceof ApiProblem) || error.body.status === 503),
    },
  },
});

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
