import { QueryClientProvider } from '@tanstack/react-query';
import { createBrowserRouter, Link, RouterProvider, useRouteError } from 'react-router';
import { Toaster } from 'sonner';
import { useServerEvents } from './api/events.ts';
import { queryClient } from './api/queries.ts';
import { BenchPage } from './bench/bench-page.tsx';
import { CheckPage } from './check/check-page.tsx';
import { DeliveryPage } from './delivery/delivery-page.tsx';
import { JobsPage } from './jobs/jobs-page.tsx';
import { ShelfPage } from './shelf/shelf-page.tsx';
import { TargetsPage } from './targets/targets-page.tsx';
import { Layout } from './ui/layout.tsx';
import { Failed } from './ui/states.tsx';
import { useIsDark } from './ui/theme.ts';

function NotFound() {
  return (
    <p className="p-6">
      There is nothing at this address.{' '}
      <Link to="/" className="underline">
        Go to the jobs.
      </Link>
    </p>
  );
}

/** A mistake of ours; what was saved is on the server, and loading the page again shows it. */
function Broken() {
  const error = useRouteError();
  const words = error instanceof Error ? error.message : String(error);
  return (
    <Failed
      error={new Error(`This view stopped working (${words}). What was saved is kept: load the page again.`)}
      retry={() => window.location.reload()}
    />
  );
}

/** The form and what it is made with are loaded when a sheet is edited. */
const editPage = async () => ({ Component: (await import('./targets/edit-page.tsx')).EditSheetPage });

const router = createBrowserRouter([
  {
    element: <Layout />,
    children: [
      {
        errorElement: <Broken />,
        children: [
          { path: '/', element: <JobsPage /> },
          { path: '/shelf', element: <ShelfPage /> },
          { path: '/targets', element: <TargetsPage /> },
          { path: '/targets/:targetId', element: <TargetsPage /> },
          { path: '/targets/:targetId/edit', lazy: editPage },
          { path: '/check', element: <CheckPage /> },
          { path: '/jobs/:jobId', element: <BenchPage /> },
          { path: '/deliveries/:deliveryId', element: <DeliveryPage /> },
          { path: '*', element: <NotFound /> },
        ],
      },
    ],
  },
]);

function Live() {
  useServerEvents();
  const isDark = useIsDark();
  return (
    <>
      <RouterProvider router={router} />
      <Toaster
        position="bottom-center"
        theme={isDark ? 'dark' : 'light'}
        toastOptions={{ className: 'tambur-toast' }}
      />
    </>
  );
}

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <Live />
    </QueryClientProvider>
  );
}
