import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { ServerRefusal } from './api/client.ts';
import { AppCommands } from './commands/app-commands.tsx';
import { SignedIn } from './people/signed-in.tsx';
import { keepRoom } from './session/choices/room.ts';
import { FaultPage } from './shot/fault-page.tsx';
import { passStyleNonce } from './ui/fields/style-nonce.ts';
import { fetchEarly } from './ui/lazy-part.tsx';
import { WallPage } from './wall/wall-page.tsx';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => !(error instanceof ServerRefusal) && count < 30,
      retryDelay: 1000,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

const shotPages = () => import('./shot-pages.ts');

const router = createBrowserRouter([
  { path: '/', element: <WallPage />, errorElement: <FaultPage /> },
  {
    path: '/shots/:shotId',
    lazy: async () => ({ Component: (await shotPages()).ShotPage }),
    errorElement: <FaultPage />,
    hydrateFallbackElement: <p className="p-6">Opening …</p>,
    children: [
      { index: true, element: <Navigate to="stage" replace /> },
      { path: 'art', lazy: async () => ({ Component: (await shotPages()).ArtPage }) },
      {
        path: 'art/cut/:planeId',
        lazy: async () => ({ Component: (await shotPages()).CutPage }),
      },
      {
        path: 'art/shapes/:planeId',
        lazy: async () => ({ Component: (await shotPages()).ShapesPage }),
      },
      {
        path: 'stage',
        lazy: async () => ({ Component: (await shotPages()).StagePage }),
      },
      { path: 'move', lazy: async () => ({ Component: (await shotPages()).MovePage }) },
      { path: 'look', lazy: async () => ({ Component: (await shotPages()).LookPage }) },
      {
        path: 'survey',
        lazy: async () => ({ Component: (await shotPages()).SurveyPage }),
      },
      {
        path: 'hand-off',
        lazy: async () => ({ Component: (await shotPages()).HandoffPage }),
      },
    ],
  },
  {
    path: '/productions/:productionId/reel',
    lazy: async () => ({ Component: (await import('./reel/reel-page.tsx')).ReelPage }),
    errorElement: <FaultPage />,
  },
  {
    path: '/help',
    lazy: async () => ({ Component: (await import('./help/help-page.tsx')).HelpPage }),
    errorElement: <FaultPage />,
  },
  { path: '*', element: <FaultPage /> },
]);

// Whoever looks at the wall opens a shot next.
fetchEarly(shotPages);
keepRoom();
passStyleNonce();
const root = document.getElementById('root');
if (!root) throw new Error('index.html has no root');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <AppCommands>
        <SignedIn>
          <RouterProvider router={router} />
        </SignedIn>
      </AppCommands>
      <Toaster
        position="bottom-center"
        duration={7000}
        toastOptions={{
          style: {
            fontFamily: 'var(--font-sans)',
            borderRadius: 3,
            background: 'var(--color-raised)',
            color: 'var(--color-ink)',
            borderColor: 'var(--color-rule)',
          },
        }}
      />
    </QueryClientProvider>
  </StrictMode>,
);
