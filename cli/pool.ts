import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { InputError } from '@tambur/core';
import { type ClipMade, type ClipTask, makeOne } from './clip.ts';
import type { ClipOutcome } from './clip-thread.ts';
import { rests, works } from './life.ts';

/** Makes files: here, or in threads of its own. */
export interface Makers {
  /** So many at once. */
  readonly count: number;
  make(task: ClipTask): Promise<ClipMade>;
  close(): Promise<void>;
}

/** Fewer files are made before the threads would have started. */
const LEAST_FILES = 4;

const here: Makers = { count: 1, make: makeOne, close: async () => undefined };

/** @param jobs how many files may be made at the same time; more than there are cores for would only wait for each other */
export async function openMakers(files: number, jobs: number): Promise<Makers> {
  const count = Math.min(files, jobs, availableParallelism());
  if (count < 2 || files < LEAST_FILES) return here;
  const { Tinypool } = await import('tinypool');
  const pool = new Tinypool({
    filename: fileURLToPath(new URL('./clip-thread.js', import.meta.url)),
    minThreads: count,
    maxThreads: count,
  });
  let running = 0;
  return {
    count,
    async make(task) {
      const { port1, port2 } = new MessageChannel();
      port1.on('message', works);
      works();
      running++;
      try {
        const outcome: ClipOutcome = await pool.run({ task, life: port2 }, { transferList: [port2] });
        if ('refused' in outcome) throw new InputError(...outcome.refused);
        return outcome;
      } finally {
        running--;
        port1.close();
        if (running === 0) rests();
      }
    },
    close: () => pool.destroy(),
  };
}
