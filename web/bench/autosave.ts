import { messageOf } from '@tambur/core';
import type { JobView } from '@tambur/server';
import { MutationObserver, type QueryClient } from '@tanstack/react-query';
import { ApiError } from '../api/errors.ts';
import type { JobStore } from './job-store.ts';

export type SaveState =
  | { readonly state: 'saved' }
  | { readonly state: 'saving' }
  | { readonly state: 'failed'; readonly message: string };

type Clips = JobView['clips'];

/** Stores a clip list that was changed on a revision; gives the new revision. */
export type StoreClips = (revision: number, clips: Clips) => Promise<number>;

const WAIT_MS = 300;
const RETRY_MS = 3_000;

/** Saves the clip list soon after each change, one save at a time. */
export class Autosave {
  private readonly store: JobStore;
  private readonly tell: (state: SaveState) => void;
  private readonly saves: MutationObserver<void, Error, void>;
  private revision: number;
  private saved: Clips;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    client: QueryClient,
    job: Pick<JobView, 'id' | 'revision'>,
    store: JobStore,
    put: StoreClips,
    tell: (state: SaveState) => void,
  ) {
    this.store = store;
    this.tell = tell;
    this.revision = job.revision;
    this.saved = store.getState().clips;
    this.saves = new MutationObserver(client, {
      // Of one job one save at a time: the next one waits, and takes what is there then.
      scope: { id: `clips of ${job.id}` },
      // The server is this machine: it answers without a network too.
      networkMode: 'always',
      mutationFn: async () => {
        const { clips } = store.getState();
        if (clips === this.saved) return;
        this.revision = await put(this.revision, clips);
        this.saved = clips;
      },
    });
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

  /** Resolves when everything up to now is on the server, or could not be saved: then with false. */
  async now(): Promise<boolean> {
    clearTimeout(this.timer);
    try {
      await this.saves.mutate();
    } catch (error) {
      this.tell({ state: 'failed', message: messageOf(error) });
      if (error instanceof ApiError && error.code === 'offline') {
        this.timer = setTimeout(() => void this.now(), RETRY_MS);
      }
      return false;
    }
    if (this.pending) this.later();
    else this.tell({ state: 'saved' });
    return !this.pending;
  }
}
