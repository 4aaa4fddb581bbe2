import { InputError } from '@tambur/core';
import type { JobZip } from '@tambur/disk';
import { Threads } from '../work/threads.ts';
import type { ReadOutcome, ReadTask } from './worker.ts';

/** The documents of an export are at most some ten MB, and are read in a second or two. */
const LIMITS = { most: 1, megabytes: 1024, growth: 2_000_000_000 };
const LONGEST_MS = 60_000;

/** Reads the documents of exported jobs in a thread of its own. */
export class ExportReader {
  private readonly threads: Threads<ReadTask, ReadOutcome>;

  constructor(workerFile: string) {
    this.threads = new Threads(workerFile, LIMITS);
  }

  /**
   * @param name what the export is called, for refusals
   * @throws InputError if it is damaged or takes too much; the signal's reason if it was cancelled
   */
  async read(path: string, name: string, signal?: AbortSignal): Promise<JobZip> {
    const ended = new AbortController();
    let timer: NodeJS.Timeout | undefined;
    const begun = () => {
      const what = `${name}: reading it takes more than a minute; export the job again.`;
      timer = setTimeout(() => ended.abort(new InputError('damaged', what)), LONGEST_MS);
    };
    const signals = AbortSignal.any(signal ? [signal, ended.signal] : [ended.signal]);
    try {
      const outcome = await this.threads.run({ path, name }, { signal: signals, begun });
      if ('refused' in outcome) throw new InputError(outcome.refused.code, outcome.refused.message);
      return outcome;
    } finally {
      clearTimeout(timer);
    }
  }

  async close(): Promise<void> {
    await this.threads.close();
  }
}
