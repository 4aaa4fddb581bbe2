import type { Reading } from '@tambur/core';
import * as Comlink from 'comlink';
import type { PreviewWorker } from './preview-worker.ts';

interface Started {
  readonly worker: Worker;
  readonly remote: Comlink.Remote<PreviewWorker>;
}

function start(name: string): Started {
  const worker = new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name });
  return { worker, remote: Comlink.wrap<PreviewWorker>(worker) };
}

const workers = new Map<string, Started>();

/** Workers are started at first use and stay: one renders for the bench, one opens files that are dropped, one measures. */
function workerFor(task: 'preview' | 'look' | 'measure'): Comlink.Remote<PreviewWorker> {
  const started = workers.get(task) ?? start(task);
  workers.set(task, started);
  return started.remote;
}

export const previewWorker = () => workerFor('preview');

/** The worker that measures what is asked for beside the preview. */
export const measureWorker = () => workerFor('measure');

/** The worker that looks at files. */
export const lookWorker = () => workerFor('look');

/** Files up to this size are opened in the page as well. Larger ones are there sooner if the server works alone. */
const MOST_TO_LOOK_AT = 2_000_000;
/** A decoder that takes longer over such a file has lost its way in it: its worker is ended, the server's word counts. */
const MOST_MS = 10_000;

let looking: Promise<unknown> = Promise.resolve();

/** Null, when the worker has been ended because it took too long. */
function patience(): { readonly over: Promise<null>; readonly end: () => void } {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const over = new Promise<null>((resolve) => {
    timer = setTimeout(() => {
      workers.get('look')?.worker.terminate();
      workers.delete('look');
      resolve(null);
    }, MOST_MS);
  });
  return { over, end: () => clearTimeout(timer) };
}

/** Files up to this size are read in the page where somebody waits for what they are. */
export const LARGEST_LOOK = 300_000_000;

interface LookOptions {
  /** How bytes are read that do not say what they are. */
  readonly reading?: Reading | undefined;
  /** Larger files are not looked at. */
  readonly largest?: number;
}

/** What a dropped file is, or why it cannot be used, without waiting for the server; null where the page cannot tell. */
export function lookAt(file: File, { reading, largest = MOST_TO_LOOK_AT }: LookOptions = {}) {
  const task = looking.then(async () => {
    if (file.size > largest) return null;
    const bytes = new Uint8Array(await file.arrayBuffer());
    const { over, end } = patience();
    try {
      return await Promise.race([lookWorker().look(Comlink.transfer(bytes, [bytes.buffer]), reading), over]);
    } finally {
      end();
    }
  });
  // One after the other: many files at once would fill the memory.
  looking = task.catch(() => undefined);
  return task;
}
