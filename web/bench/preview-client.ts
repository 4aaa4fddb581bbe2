import * as Comlink from 'comlink';
import type { PreviewWorker } from './preview-worker.ts';

let remote: Comlink.Remote<PreviewWorker> | undefined;

/** The one worker that renders and decodes for the page; started at first use. */
export function previewWorker(): Comlink.Remote<PreviewWorker> {
  remote ??= Comlink.wrap<PreviewWorker>(
    new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module', name: 'preview' }),
  );
  return remote;
}
