import { messageOf } from '@tambur/core';
import { type ComponentType, lazy, Suspense, useEffect } from 'react';
import type { ToasterProps } from 'sonner';
import { useIsDark } from './theme.ts';

/** What can be done about a notice while it is shown. */
export interface NoticeAction {
  readonly label: string;
  readonly onClick: () => void;
}

/** Time to read a notice and to decide, in milliseconds. */
const WITH_ACTION_MS = 10_000;

type Library = typeof import('sonner');
let library: Promise<Library> | undefined;

/** Notices are not needed to show a view: their library is loaded, once, when the first one is there. */
function load(): Promise<Library> {
  library ??= import('sonner');
  return library;
}

// Where it cannot be loaded, the page goes on without it.
const Toaster = lazy<ComponentType<ToasterProps>>(() =>
  load().then(
    (loaded) => ({ default: loaded.Toaster }),
    () => ({ default: () => null }),
  ),
);

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

/** Shows a notice; where there is no place for one, the browser says the text its own way, so that it is not lost. */
async function show(text: string, notice: (toast: Library['toast']) => void): Promise<void> {
  try {
    const [{ toast }] = await Promise.all([load(), ready]);
    notice(toast);
  } catch {
    window.alert(text);
  }
}

/** Says for a moment what was done. With an action it stays longer. */
export const notify = (text: string, action?: NoticeAction): Promise<void> =>
  show(text, (toast) => toast(text, action && { action, duration: WITH_ACTION_MS }));

/** Says what went wrong: an error's message, or a sentence. */
export function notifyFailure(error: unknown): Promise<void> {
  const text = messageOf(error);
  return show(text, (toast) => toast.error(text));
}
