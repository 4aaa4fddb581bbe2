import type { JobView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, unwrap } from '../api/client.ts';
import { ApiError } from '../api/errors.ts';
import { keepPending } from '../api/pending-saves.ts';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import type { JobStore } from './job-store.ts';

export type SaveState =
  | { readonly state: 'saved' }
  | { readonly state: 'saving' }
  | { readonly state: 'failed'; readonly message: string };

const WAIT_MS = 300;
const RETRY_MS = 3_000;

/** Saves the clip list soon after each change, one save at a time. */
class Autosave {
  private revision: number;
  private saved: JobView['clips'];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private working: Promise<void> | null = null;
  private readonly jobId: string;
  private readonly store: JobStore;
  private readonly tell: (state: SaveState) => void;

  constructor(job: JobView, store: JobStore, tell: (state: SaveState) => void) {
    this.jobId = job.id;
    this.revision = job.revision;
    this.store = store;
    this.saved = store.getState().clips;
    this.tell = tell;
  }

  get pending(): boolean {
    return this.store.getState().clips !== this.saved;
  }

  later(): void {
    if (!this.pending) return;
    this.tell({ state: 'saving' });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.now(), WAIT_MS);
  }

  /** Resolves when everything up to now is on the server, or could not be saved. */
  async now(): Promise<boolean> {
    clearTimeout(this.timer);
    await this.working;
    if (this.pending) {
      this.working = this.save();
      await this.working;
      this.working = null;
    }
    return !this.pending;
  }

  private async save(): Promise<void> {
    const { clips } = this.store.getState();
    try {
      const json = { revision: this.revision, clips: [...clips] };
      const job = await unwrap<JobView>(api.jobs[':id'].clips.$put({ param: { id: this.jobId }, json }));
      this.revision = job.revision;
      this.saved = clips;
      if (this.pending) this.later();
      else this.tell({ state: 'saved' });
    } catch (error) {
      this.tell({ state: 'failed', message: error instanceof Error ? error.message : String(error) });
      if (error instanceof ApiError && error.code === 'offline') {
        this.timer = setTimeout(() => void this.now(), RETRY_MS);
      }
    }
  }
}

/** Keeps the clip list on the server true to the bench; `saveNow` waits until it is. */
export function useAutosave(job: JobView, store: JobStore): { save: SaveState; saveNow: () => Promise<boolean> } {
  const client = useQueryClient();
  const [save, setSave] = useState<SaveState>({ state: 'saved' });
  const [autosave] = useState(() => new Autosave(job, store, setSave));

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
      const save = autosave.now();
      keepPending(job.id, save);
      void save.then(() => refresh(client, keys.jobs));
    };
  }, [autosave, store, client, job.id]);

  return { save, saveNow: () => autosave.now() };
}
