import type { MessagePort } from 'node:worker_threads';
import pLimit from 'p-limit';
import { Tinypool } from 'tinypool';

interface Limits {
  /** Threads at work at once. */
  readonly most: number;
  /** MB of JavaScript's own memory that a thread may use; what is over ends it with an error. */
  readonly megabytes: number;
}

/** A thread without work stays so long. */
const IDLE_MS = 30_000;

/**
 * Threads that carry out one kind of task. A task that is cancelled ends its thread at once. Tasks queue here, not in the
 * pool: that one starts no new thread for what is waiting when a cancelled task takes one away.
 */
export class Threads<Task, Outcome> {
  private readonly pool: Tinypool;
  private readonly limit: ReturnType<typeof pLimit>;

  constructor(workerFile: string, { most, megabytes }: Limits) {
    this.limit = pLimit(most);
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
   * @throws the signal's reason where it was cancelled; what the task threw, without its class
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
      const work: Promise<Outcome> = this.pool.run(task, {
        ...(signal ? { signal } : {}),
        transferList: [...transferList],
      });
      return await work.catch((error: unknown) => {
        throw signal?.aborted ? signal.reason : error;
      });
    });
  }

  async close(): Promise<void> {
    this.limit.clearQueue();
    await this.pool.destroy();
  }
}
