import { messageOf } from '@tambur/core';
import { QueryClientProvider } from '@tanstack/react-query';
import { createBrowserRouter, Link, RouterProvider, useRouteError } from 'react-router';
import { useServerEvents } from './api/events.ts';
import { queryClient } from './api/queries.ts';
import { JobsPage } from './jobs/jobs-page.tsx';
import { Layout } from './ui/layout.tsx';
import { Notices } from './ui/notify.tsx';
import { Failed, Loading } from './ui/states.tsx';

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

/** While the first view is fetched. */
const Coming = () => <Loading what="this view" />;

/** A mistake of ours; what was saved is on the server, and loading the page again shows it. */
function Broken() {
  const error = useRouteError();
  const words = messageOf(error);
  return (
    <Failed
      error={new Error(`This view stopped working (${words}). What was saved is kept: load the page again.`)}
      retry={() => window.location.reload()}
    />
  );
}

/** Jobs comes with the frame; every other view is loaded when it is first gone to. */
const shelfPage = async () => ({ Component: (await import('./shelf/shelf-page.tsx')).ShelfPage });
const targetsPage = async () => ({ Component: (await import('./targets/targets-page.tsx')).TargetsPage });
const editPage = async () => ({ Component: (await import('./targets/edit-page.tsx')).EditSheetPage });
const checkPage = async () => ({ Component: (await import('./check/check-page.tsx')).CheckPage });
const tryoutPage = async () => ({ Component: (await import('./tryout/tryout-page.tsx')).TryoutPage });
const benchPage = async () => ({ Component: (await import('./bench/bench-page.tsx')).BenchPage });
const deliveryPage = async () => ({ Component: (await import('./delivery/delivery-page.tsx')).DeliveryPage });

const router = createBrowserRouter([
  {
    element: <Layout />,
    children: [
      {
        errorElement: <Broken />,
        HydrateFallback: Coming,
        children: [
          { path: '/', Component: JobsPage },
          { path: '/shelf', lazy: shelfPage },
          { path: '/targets', lazy: targetsPage },
          { path: '/targets/:targetId', lazy: targetsPage },
          { path: '/targets/:targetId/edit', lazy: editPage },
          { path: '/check', lazy: checkPage },
          { path: '/try', lazy: tryoutPage },
          { path: '/try/:deliveryId', lazy: tryoutPage },
          // One view holds the job, whichever way its clips are looked at.
          { path: '/jobs/:jobId', lazy: benchPage, children: [{ index: true }, { path: 'set' }] },
          { path: '/deliveries/:deliveryId', lazy: deliveryPage },
          { path: '*', element: <NotFound /> },
        ],
      },
    ],
  },
]);

function Live() {
  useServerEvents();
  return (
    <>
      <RouterProvider router={router} />
      <Notices />
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
