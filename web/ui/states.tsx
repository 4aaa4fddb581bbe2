import type { ReactNode } from 'react';
import { Button } from './button.tsx';

/** Shown while something is fetched; quiet, because it is short. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-graphite">
      Loading {what} …
    </p>
  );
}

/** Shown where something could not be fetched, with a way to try again. */
export function Failed({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <div role="alert" className="m-6 border-l-4 border-brick bg-brick-tint px-4 py-3">
      <p>{error.message}</p>
      {retry && (
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}

/** A thin bar for something that gets on. */
export function Progress({ value, label, children }: { value: number; label: string; children?: ReactNode }) {
  const percent = Math.round(value * 100);
  return (
    <div>
      <div
        role="progressbar"
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={percent}
        className="h-1.5 bg-hairline"
      >
        <div className="h-full bg-pine" style={{ width: `${percent}%` }} />
      </div>
      {children}
    </div>
  );
}
