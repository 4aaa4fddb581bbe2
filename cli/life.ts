import { type MessagePort, parentPort } from 'node:worker_threads';
import type { SoundStream, Work } from '@tambur/core';

/** Told at most so often. */
const TOLD_MS = 1000;
let told = Number.NEGATIVE_INFINITY;
let watcher: Pick<MessagePort, 'postMessage'> | null = parentPort;

/** From now on somebody else watches over what is done here. */
export function tellLifeTo(port: MessagePort): void {
  watcher = port;
  told = Number.NEGATIVE_INFINITY;
}

/** Tells whoever watches over this thread that it is alive, from the beginning of work on a file on. */
export function works(): void {
  if (performance.now() - told < TOLD_MS) return;
  told = performance.now();
  watcher?.postMessage('works');
}

/** Nothing is under way that could stall. */
export function rests(): void {
  told = Number.NEGATIVE_INFINITY;
  watcher?.postMessage('rests');
}

/** Work whose every step is a sign of life. The command is ended from outside, if at all. */
export const lively: Work = { check: works, progress: () => undefined };

/** A sound whose every block is a sign of life. */
export function watched(stream: SoundStream): SoundStream {
  return {
    ...stream,
    async *blocks() {
      works();
      for await (const block of stream.blocks()) {
        works();
        yield block;
      }
    },
  };
}
