import type { Reading } from '@tambur/core';
import * as Comlink from 'comlink';
import { inspectWorker } from './workers/workers.ts';

/** Files up to this size are opened in the page as well. Larger ones are there sooner if the server works alone. */
const MOST_TO_INSPECT = 2_000_000;
/** A decoder that takes longer over such a file has lost its way in it: its worker is ended, the server's word counts. */
const MOST_MS = 10_000;

/** Files up to this size are read in the page where somebody waits for what they are. */
export const LARGEST_INSPECTED = 300_000_000;

interface InspectOptions {
  /** How bytes are read that do not say what they are. */
  readonly reading?: Reading | undefined;
  /** Larger files are not looked at. */
  readonly largest?: number;
}

class TooSlow extends Error {
  override readonly message = 'The page took too long over a file and gave up; try again.';
}

let looking: Promise<unknown> = Promise.resolve();

/** What a dropped file is, or why it cannot be used, without waiting for the server; null if the page cannot tell. */
export function inspectHere(file: File, { reading, largest = MOST_TO_INSPECT }: InspectOptions = {}) {
  const task = looking.then(async () => {
    if (file.size > largest) return null;
    const bytes = new Uint8Array(await file.arrayBuffer());
    const timer = setTimeout(() => inspectWorker.end(new TooSlow()), MOST_MS);
    try {
      return await inspectWorker.run((remote) => remote.inspect(Comlink.transfer(bytes, [bytes.buffer]), reading));
    } catch (error) {
      if (error instanceof TooSlow) return null;
      throw error;
    } finally {
      clearTimeout(timer);
    }
  });
  // One after the other: many files at once would fill the memory.
  looking = task.catch(() => undefined);
  return task;
}
