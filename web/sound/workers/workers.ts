import type { HeaderlessWorker } from './headerless-worker.ts';
import type { InspectWorker } from './inspect-worker.ts';
import type { ListenWorker } from './listen-worker.ts';
import type { MeasureWorker } from './measure-worker.ts';
import type { PreviewWorker } from './preview-worker.ts';
import { TaskWorker } from './task-worker.ts';
import type { TryoutWorker } from './tryout-worker.ts';

/** Renders for the bench. */
export const previewWorker = new TaskWorker<PreviewWorker>(
  () => new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name: 'preview' }),
);

/** Makes pieces of what takes long as a whole, beside that. */
export const pieceWorker = new TaskWorker<PreviewWorker>(
  () => new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name: 'pieces' }),
);

/** Makes what is compared with the result, beside that. */
export const compareWorker = new TaskWorker<PreviewWorker>(
  () => new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name: 'compared' }),
);

/** Plays finished files as devices do. */
export const listenWorker = new TaskWorker<ListenWorker>(
  () => new Worker(new URL('./listen-worker.ts', import.meta.url), { type: 'module', name: 'device' }),
);

/** Opens files. */
export const inspectWorker = new TaskWorker<InspectWorker>(
  () => new Worker(new URL('./inspect-worker.ts', import.meta.url), { type: 'module', name: 'inspect' }),
);

/** Reads bytes of which nobody knows what they are. */
export const headerlessWorker = new TaskWorker<HeaderlessWorker>(
  () => new Worker(new URL('./headerless-worker.ts', import.meta.url), { type: 'module', name: 'bare bytes' }),
);

/** Measures what is asked for beside the preview. */
export const measureWorker = new TaskWorker<MeasureWorker>(
  () => new Worker(new URL('./measure-worker.ts', import.meta.url), { type: 'module', name: 'measure' }),
);

/** Stands in for a device, from the card that is put in until the page leaves it. */
export const tryoutWorker = new TaskWorker<TryoutWorker>(
  () => new Worker(new URL('./tryout-worker.ts', import.meta.url), { type: 'module', name: 'stand-in' }),
);
