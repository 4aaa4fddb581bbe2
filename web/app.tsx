import { QueryClientProvider } from '@tanstack/react-query';
import { createBrowserRouter, Link, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { useServerEvents } from './api/events.ts';
import { queryClient } from './api/queries.ts';
import { BenchPage } from './bench/bench-page.tsx';
import { DeliveryPage } from './delivery/delivery-page.tsx';
import { JobsPage } from './jobs/jobs-page.tsx';
import { Layout } from './ui/layout.tsx';
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

const router = createBrowserRouter([
  {
    element: <Layout />,
    children: [
      { path: '/', element: <JobsPage /> },
      { path: '/jobs/:jobId', element: <BenchPage /> },
      { path: '/deliveries/:deliveryId', element: <DeliveryPage /> },
      { path: '*', element: <NotFound /> },
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
