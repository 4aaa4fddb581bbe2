import { messageOf } from '@tambur/core';
import { lazy, Suspense, useEffect } from 'react';
import { useIsDark } from './theme.ts';

/** What can be done about a notice while it is shown. */
export interface NoticeAction {
  readonly label: string;
  readonly onClick: () => void;
}

/** Time to read a notice and to decide, in milliseconds. */
const WITH_ACTION_MS = 10_000;

// Notices are not needed to show a view: their library is loaded once the first one stands.
const library = () => import('sonner');
const Toaster = lazy(async () => ({ default: (await library()).Toaster }));

let announce: () => void;
/** Settled when notices have a place to appear; what was to be said earlier waits for it. */
const ready = new Promise<void>((resolve) => {
  announce = resolve;
});

function Ready() {
  useEffect(() => announce(), []);
  return null;
}

/** Where notices appear. Stands once in the application. */
export function Notices() {
  const isDark = useIsDark();
  return (
    <Suspense fallback={null}>
      <Toaster
        position="bottom-center"
        theme={isDark ? 'dark' : 'light'}
        toastOptions={{ className: 'tambur-toast' }}
      />
      <Ready />
    </Suspense>
  );
}

/** Says for a moment what was done. With an action it stays longer. */
export async function notify(text: string, action?: NoticeAction): Promise<void> {
  const [{ toast }] = await Promise.all([library(), ready]);
  toast(text, action && { action, duration: WITH_ACTION_MS });
}

/** Says what went wrong: an error's message, or a sentence. */
export async function notifyFailure(error: unknown): Promise<void> {
  const [{ toast }] = await Promise.all([library(), ready]);
  toast.error(messageOf(error));
}
