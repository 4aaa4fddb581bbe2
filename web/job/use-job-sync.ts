import type { ChangesView, JobView, StepView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, unwrap } from '../api/client.ts';
import { listenToJob } from '../api/job-events.ts';
import { keepPending } from '../api/pending-saves.ts';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { notifyFailure } from '../ui/notify.tsx';
import type { JobStore } from './job-store.ts';
import { type JobServer, JobSync, type SaveState } from './job-sync.ts';

const serverOf = (id: string): JobServer => ({
  send: (revision, change) => unwrap(api.jobs[':id'].changes.$post({ param: { id }, json: { revision, change } })),
  step: (kind) => unwrap(api.jobs[':id'][kind].$post({ param: { id } })),
  goTo: (last) => unwrap(api.jobs[':id'].steps.$post({ param: { id }, json: { last } })),
  steps: () => unwrap<StepView[]>(api.jobs[':id'].steps.$get({ param: { id } })),
  after: (revision) =>
    unwrap<ChangesView>(api.jobs[':id'].changes.$get({ param: { id }, query: { after: String(revision) } })),
  load: () => unwrap<JobView>(api.jobs[':id'].$get({ param: { id } })),
});

export interface Saving {
  readonly save: SaveState;
  /** Resolves when all is on the server; with false if it could not be saved. */
  readonly saveNow: () => Promise<boolean>;
  readonly undo: () => void;
  readonly redo: () => void;
  /** What can be undone and made again, in the order in which it was made. */
  readonly steps: () => Promise<readonly StepView[]>;
  /** Undoes, or makes again, everything up to a step; 0 is before all of them. */
  readonly goTo: (last: number) => void;
}

/** Keeps the bench and the server the same, and with other windows. */
export function useJobSync(view: JobView, store: JobStore): Saving {
  const client = useQueryClient();
  const [save, setSave] = useState<SaveState>({ state: 'saved' });
  const [sync] = useState(() => new JobSync(view, store, serverOf(view.id), { state: setSave, lost: notifyFailure }));

  useEffect(() => {
    const stop = store.subscribe(() => sync.later());
    const stopListening = listenToJob(view.id, (revision) => void sync.catchUp(revision));
    const warn = (event: BeforeUnloadEvent) => {
      if (!sync.pending) return;
      void sync.now();
      event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      stop();
      stopListening();
      window.removeEventListener('beforeunload', warn);
      const last = sync.now();
      keepPending(view.id, last);
      void last.then(() => refresh(client, keys.jobs));
    };
  }, [sync, store, client, view.id]);

  return {
    save,
    saveNow: () => sync.now(),
    undo: () => void sync.step('undo'),
    redo: () => void sync.step('redo'),
    steps: () => sync.steps(),
    goTo: (last) => void sync.goTo(last),
  };
}
