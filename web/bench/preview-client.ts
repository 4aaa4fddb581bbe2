import * as Comlink from 'comlink';
import type { PreviewWorker } from './preview-worker.ts';

const start = (name: string) =>
  Comlink.wrap<PreviewWorker>(new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name }));

const workers = new Map<string, Comlink.Remote<PreviewWorker>>();

/** Workers are started at first use and stay: one renders for the bench, another opens files that are dropped. */
function workerFor(task: 'preview' | 'look'): Comlink.Remote<PreviewWorker> {
  const worker = workers.get(task) ?? start(task);
  workers.set(task, worker);
  return worker;
}

export const previewWorker = () => workerFor('preview');

/** Files up to this size are opened in the page as well. Larger ones are there sooner if the server works alone. */
const MOST_TO_LOOK_AT = 2_000_000;

let looking: Promise<unknown> = Promise.resolve();

/** What a dropped file is, or why it cannot be used, without waiting for the server; null for large files. */
export function lookAt(file: File) {
  const task = looking.then(async () => {
    if (file.size > MOST_TO_LOOK_AT) return null;
    const bytes = new Uint8Array(await file.arrayBuffer());
    return workerFor('look').look(Comlink.transfer(bytes, [bytes.buffer]));
  });
  // One after the other: many files at once would fill the memory.
  looking = task.catch(() => undefined);
  return task;
}
