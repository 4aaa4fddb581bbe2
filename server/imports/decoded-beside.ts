import { on } from 'node:events';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { OpenOptions } from '@tambur/codecs';
import { InputError, type SoundStream } from '@tambur/core';

/** What a thread that decodes is given, and what it hands over. */
export interface Decoding {
  readonly path: string;
  readonly options: OpenOptions;
}
export type Handed =
  | { readonly block: readonly Float32Array[] }
  /** The last: what showed only while decoding. */
  | { readonly warnings: readonly string[] }
  | { readonly refused: readonly [code: InputError['code'], words: string] };

/** Smaller files, in bytes, are decoded before a thread would have started. */
const LEAST = 4_000_000;

/** Whether a file is worth a second thread, if there is a core for it. */
export const isWorthAThread = (bytes: number, { reader }: SoundStream): boolean =>
  !reader && bytes >= LEAST && availableParallelism() > 1;

/** The same sound, decoded by a second thread while this one works on it. */
export function decodedBeside(workerData: Decoding, { stated }: SoundStream): SoundStream {
  let warnings: readonly string[] = [];
  async function* blocks() {
    const thread = new Worker(new URL('./decode-thread.js', import.meta.url), { workerData });
    try {
      for await (const [handed] of on(thread, 'message', { close: ['exit'] }) as AsyncIterable<[Handed]>) {
        if ('refused' in handed) throw new InputError(...handed.refused);
        if ('warnings' in handed) {
          warnings = handed.warnings;
          return;
        }
        thread.postMessage('taken');
        yield handed.block;
      }
      throw new Error('the thread that decodes a file ended early');
    } finally {
      await thread.terminate();
    }
  }
  return { stated, blocks, laterWarnings: () => warnings };
}
