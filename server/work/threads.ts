import type { MessagePort } from 'node:worker_threads';
import { InputError } from '@tambur/core';
import pLimit from 'p-limit';
import { Tinypool } from 'tinypool';

interface Limits {
  /** Threads at work at once. */
  readonly most: number;
  /** MB of JavaScript's own memory that a thread may use; what is over ends it with an error. */
  readonly megabytes: number;
  /** Bytes that the whole process may grow by during a task: buffers are not part of a thread's own memory. */
  readonly growth?: number;
}

const GROWTH = 3_000_000_000;
const MEMORY_LOOK_MS = 250;

const wantsTooMuch = () =>
  new InputError(
    'too-large',
    'There is not enough memory for this; ask for less at once, or try again when nothing else is running.',
  );

/** True if a thread ended because its own memory, or a buffer, could not grow any more. */
const isOutOfMemory = (error: unknown): boolean =>
  (error as { readonly code?: unknown }).code === 'ERR_WORKER_OUT_OF_MEMORY' ||
  (error instanceof Error && /Array buffer allocation failed/.test(error.message));

/** A thread without work stays so long. */
const IDLE_MS = 30_000;

/**
 * Threads that carry out one kind of task. A task that is cancelled ends its thread at once. Tasks queue here, not in the
 * pool: that one starts no new thread for what is waiting when a cancelled task takes one away.
 */
export class Threads<Task, Outcome> {
  private readonly pool: Tinypool;
  private readonly limit: ReturnType<typeof pLimit>;
  private readonly growth: number;

  constructor(workerFile: string, { most, megabytes, growth = GROWTH }: Limits) {
    this.limit = pLimit(most);
    this.growth = growth;
    this.pool = new Tinypool({
      filename: workerFile,
      minThreads: 0,
      maxThreads: most,
      idleTimeout: IDLE_MS,
      resourceLimits: { maxOldGenerationSizeMb: megabytes },
    });
  }

  /**
   * @param begun called when a thread takes the task up
   * @throws the signal's reason where it was cancelled; InputError with code `too-large` if it takes too much memory; what the
   * task threw, without its class
   */
  run(
    task: Task,
    options: {
      readonly signal?: AbortSignal;
      readonly transferList?: readonly MessagePort[];
      readonly begun?: () => void;
    } = {},
  ): Promise<Outcome> {
    const { signal, transferList = [], begun } = options;
    return this.limit(async () => {
      signal?.throwIfAborted();
      begun?.();
      const ended = new AbortController();
      const most = process.memoryUsage.rss() + this.growth;
      const watch = setInterval(() => {
        if (process.memoryUsage.rss() > most) ended.abort(wantsTooMuch());
      }, MEMORY_LOOK_MS);
      const signals = AbortSignal.any(signal ? [signal, ended.signal] : [ended.signal]);
      try {
        return await this.pool.run(task, { signal: signals, transferList: [...transferList] });
      } catch (error) {
        throw signals.aborted ? signals.reason : isOutOfMemory(error) ? wantsTooMuch() : error;
      } finally {
        clearInterval(watch);
      }
    });
  }

  async close(): Promise<void> {
    this.limit.clearQueue();
    await this.pool.destroy();
  }
}
