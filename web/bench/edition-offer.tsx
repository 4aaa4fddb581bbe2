import { newerEdition, type Target, whatChanges, withVariant } from '@tambur/core';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import type { JobStore } from '../job/job-store.ts';
import { variantIn } from '../job/variants.ts';
import { Button } from '../ui/button.tsx';

interface Props {
  readonly store: JobStore;
  /** The sheet in the job's edition and variant, with its blanks. */
  readonly edition: Target;
}

/** Says once what a newer edition of the job's sheet changes; the user decides. */
export function EditionOffer({ store, edition }: Props) {
  const job = useStore(store, (state) => state.job);
  const newer = newerEdition(job);
  const lines = useMemo(
    () => (newer ? whatChanges(edition, withVariant(newer, variantIn(newer, job.variant))) : []),
    [edition, newer, job.variant],
  );
  if (!newer) return null;
  const { takeEdition, declineEdition } = store.getState();
  return (
    <section
      aria-label="A newer edition of the sheet"
      className="flex flex-wrap items-start gap-x-6 gap-y-2 border-b border-hairline bg-saffron-tint px-4 py-2 text-sm sm:px-6 print:hidden"
    >
      <div className="min-w-64 flex-1">
        <p className="font-semibold">
          {newer.name} has a newer edition. This job stays as it is until you decide; the newer one differs:
        </p>
        <ul className="mt-1 max-h-40 list-disc overflow-y-auto pl-5">
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <div className="flex gap-2">
        <Button kind="main" onClick={() => takeEdition(newer)}>
          Take edition {newer.edition}
        </Button>
        <Button onClick={() => declineEdition(newer)}>Stay with edition {job.edition}</Button>
      </div>
    </section>
  );
}
