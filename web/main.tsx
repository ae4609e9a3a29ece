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

const router = createBrowserRouter([
  { path: '/', element: <WallPage />, errorElement: <FaultPage /> },
  {
    path: '/shots/:shotId',
    lazy: async () => ({ Component: (await import('./shot/shot-page.tsx')).ShotPage }),
    errorElement: <FaultPage />,
    hydrateFallbackElement: <p className="p-6">Opening …</p>,
    children: [
      { index: true, element: <Navigate to="stage" replace /> },
      { path: 'art', lazy: async () => ({ Component: (await import('./art/art-page.tsx')).ArtPage }) },
      {
        path: 'art/cut/:planeId',
        lazy: async () => ({ Component: (await import('./art/cut/cut-page.tsx')).CutPage }),
      },
      {
        path: 'art/shapes/:planeId',
        lazy: async () => ({ Component: (await import('./art/shapes/shapes-page.tsx')).ShapesPage }),
      },
      {
        path: 'stage',
        lazy: async () => ({ Component: (await import('./stage/stage-page.tsx')).StagePage }),
      },
      { path: 'move', lazy: async () => ({ Component: (await import('./move/move-page.tsx')).MovePage }) },
      { path: 'look', lazy: async () => ({ Component: (await import('./look/look-page.tsx')).LookPage }) },
      {
        path: 'survey',
        lazy: async () => ({ Component: (await import('./survey/survey-page.tsx')).SurveyPage }),
      },
      {
        path: 'hand-off',
        lazy: async () => ({ Component: (await import('./handoff/handoff-page.tsx')).HandoffPage }),
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
