import { applyChange, type Change, messageOf, type WorkingJob } from '@tambur/core';
import type { ChangesView, History, JobView, StepView } from '@tambur/server';
import { ApiError } from '../api/errors.ts';
import type { JobStore } from './job-store.ts';

export type SaveState =
  | { readonly state: 'saved' }
  | { readonly state: 'saving' }
  | { readonly state: 'failed'; readonly message: string };

/** What the server does with the changes of a job. */
export interface JobServer {
  send(revision: number, change: Change): Promise<{ readonly revision: number; readonly history: History }>;
  step(kind: 'undo' | 'redo'): Promise<unknown>;
  /** Undoes or makes again what it takes until a step is the last one; 0 is before all of them. */
  goTo(last: number): Promise<unknown>;
  /** The steps that can be gone to, in the order in which they were made. */
  steps(): Promise<readonly StepView[]>;
  /** What has become of the job since a revision. */
  after(revision: number): Promise<ChangesView>;
  load(): Promise<JobView>;
}

interface SyncNotice {
  readonly state: (state: SaveState) => void;
  /** Something that was done here was not taken over. */
  readonly lost: (message: string) => void;
}

/** A change is sent so soon; a gesture when it ends. */
const WAIT_MS = 300;
const RETRY_MS = 3_000;

const LOST = 'Another window changed the same thing at the same time; your last change to it was not kept.';

/**
 * Keeps the job here and on the server the same: sends what is changed here, one change after the other, and takes over
 * what other windows change. Undo and redo are the server's, so that they outlive the page.
 */
export class JobSync {
  private readonly store: JobStore;
  private readonly server: JobServer;
  private readonly told: SyncNotice;
  private revision: number;
  /** The job as the server has it, without what is still on its way there. */
  private confirmed: WorkingJob;
  private sending: Change | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    { job, revision }: Pick<JobView, 'job' | 'revision'>,
    store: JobStore,
    server: JobServer,
    told: SyncNotice,
  ) {
    this.store = store;
    this.server = server;
    this.told = told;
    this.revision = revision;
    this.confirmed = job;
  }

  /** True while something is not on the server yet. */
  get pending(): boolean {
    return this.sending !== null || this.store.getState().pending.length > 0;
  }

  /** Sends what was changed, soon. */
  later(): void {
    if (!this.pending) return;
    this.told.state({ state: 'saving' });
    clearTimeout(this.timer);
    // A drag is one change, however long it takes.
    if (this.store.getState().held !== null) return;
    this.timer = setTimeout(() => void this.now(), WAIT_MS);
  }

  /** Resolves when everything up to now is on the server, or could not be saved: then with false. */
  now(): Promise<boolean> {
    clearTimeout(this.timer);
    return this.inTurn(async () => {
      await this.sendAll();
      if (!this.pending) this.told.state({ state: 'saved' });
    });
  }

  /** Takes back the job's last change, wherever it was made, or makes it again. */
  step(kind: 'undo' | 'redo'): Promise<boolean> {
    return this.afterSending(() => this.server.step(kind));
  }

  /** Takes back, or makes again, everything up to a step. */
  goTo(last: number): Promise<boolean> {
    return this.afterSending(() => this.server.goTo(last));
  }

  /** The job's steps, with those that have just been made here. */
  async steps(): Promise<readonly StepView[]> {
    await this.now();
    return this.server.steps();
  }

  /** Lets the server change the job when it has everything from here, and takes over what it did. */
  private afterSending(change: () => Promise<unknown>): Promise<boolean> {
    clearTimeout(this.timer);
    this.told.state({ state: 'saving' });
    return this.inTurn(async () => {
      await this.sendAll();
      await change();
      await this.follow();
      this.told.state({ state: 'saved' });
    });
  }

  /** Takes over what was changed elsewhere, where the server says that there is something. */
  catchUp(revision: number): Promise<boolean> {
    return this.inTurn(async () => {
      if (revision > this.revision) await this.follow();
    });
  }

  /** One thing at a time. A failure is told, and tried again where the server was not there. */
  private inTurn(work: () => Promise<void>): Promise<boolean> {
    const turn = this.queue.then(async () => {
      try {
        await work();
        return true;
      } catch (error) {
        this.told.state({ state: 'failed', message: messageOf(error) });
        if (error instanceof ApiError && error.code === 'offline') {
          clearTimeout(this.timer);
          this.timer = setTimeout(() => void this.now(), RETRY_MS);
        }
        return false;
      }
    });
    this.queue = turn;
    return turn;
  }

  private async sendAll(): Promise<void> {
    for (;;) {
      const [change, ...rest] = this.store.getState().pending;
      if (!change) return;
      // What is under way is not changed any more: the next change of the same places is another step.
      this.sending = change;
      this.store.setState({ pending: rest });
      try {
        await this.send(change);
      } finally {
        this.sending = null;
      }
    }
  }

  private async send(change: Change): Promise<void> {
    try {
      const { revision, history } = await this.server.send(this.revision, change);
      // Others changed other places meanwhile.
      if (revision > this.revision + 1) return await this.follow(revision);
      this.revision = revision;
      this.confirmed = applyChange(this.confirmed, change);
      this.store.setState({ history });
    } catch (error) {
      if (!(error instanceof ApiError) || error.code === 'offline') {
        this.store.setState(({ pending }) => ({ pending: [change, ...pending] }));
        throw error;
      }
      // The server does not want it: it is not kept here either, and that is said.
      this.told.lost(error.code === 'changed-elsewhere' ? LOST : error.message);
      await this.follow();
    }
  }

  /**
   * Brings what was changed elsewhere under what is still on its way from here.
   * @param own the revision that was made here
   */
  private async follow(own?: number): Promise<void> {
    const { revision, history, changes, sources } = await this.server.after(this.revision);
    let known = [...sources];
    if (changes) this.confirmed = changes.reduce<WorkingJob>(applyChange, this.confirmed);
    else {
      const view = await this.server.load();
      this.confirmed = view.job;
      known = [...known, ...view.sources];
    }
    const others = changes?.filter((_, i) => this.revision + 1 + i !== own);
    this.revision = revision;
    const { pending } = this.store.getState();
    const isTouched = (change: Change) =>
      !others || others.some((other) => Object.keys(other).some((place) => place in change));
    const kept = pending.filter((change) => !isTouched(change));
    if (kept.length < pending.length) this.told.lost(LOST);
    this.store.setState(({ sources: before }) => ({
      job: kept.reduce<WorkingJob>(applyChange, this.confirmed),
      history,
      pending: kept,
      sources: new Map([...before, ...known.map((source) => [source.id, source] as const)]),
    }));
  }
}
