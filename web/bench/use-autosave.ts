import type { JobView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, unwrap } from '../api/client.ts';
import { keepPending } from '../api/pending-saves.ts';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { Autosave, type SaveState, type StoreClips } from './autosave.ts';
import type { JobStore } from './job-store.ts';

const putClips =
  (id: string): StoreClips =>
  async (revision, clips) => {
    const json = { revision, clips: [...clips] };
    const job = await unwrap<JobView>(api.jobs[':id'].clips.$put({ param: { id }, json }));
    return job.revision;
  };

/** Keeps the clip list on the server true to the bench; `saveNow` waits until it is. */
export function useAutosave(job: JobView, store: JobStore): { save: SaveState; saveNow: () => Promise<boolean> } {
  const client = useQueryClient();
  const [save, setSave] = useState<SaveState>({ state: 'saved' });
  const [autosave] = useState(() => new Autosave(client, job, store, putClips(job.id), setSave));

  useEffect(() => {
    const stop = store.subscribe(() => autosave.later());
    const warn = (event: BeforeUnloadEvent) => {
      if (!autosave.pending) return;
      void autosave.now();
      event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      stop();
      window.removeEventListener('beforeunload', warn);
      const last = autosave.now();
      keepPending(job.id, last);
      void last.then(() => refresh(client, keys.jobs));
    };
  }, [autosave, store, client, job.id]);

  return { save, saveNow: () => autosave.now() };
}
