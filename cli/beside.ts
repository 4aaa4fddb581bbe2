import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { OpenOptions } from '@tambur/codecs';
import { type Facts, InputError, likelyFacts, type SoundStream } from '@tambur/core';
import { works } from './life.ts';

/** What a thread that measures is given, and what it answers. */
export interface Measuring {
  readonly path: string;
  readonly options: OpenOptions;
}
export type Answer =
  | 'works'
  | 'rests'
  | { readonly facts: Facts }
  | { readonly refused: readonly [code: InputError['code'], words: string] };

/** Shorter sounds, in seconds, are measured before a thread would have started. */
const LEAST = 120;

/** The likely facts of a sound that is worth measuring in a thread of its own, if there is a core for it. */
export async function likelyBeside(stream: SoundStream): Promise<Facts | null> {
  const { expectedFrames, sampleRate } = stream.stated;
  const isLong = expectedFrames !== null && expectedFrames / sampleRate >= LEAST;
  return isLong && availableParallelism() > 1 ? likelyFacts(stream) : null;
}

/** Measures a file in a thread of its own. It has to be ended. */
export function measureBeside(path: string, options: OpenOptions) {
  const workerData: Measuring = { path, options };
  const thread = new Worker(new URL('./facts-thread.js', import.meta.url), { workerData });
  const facts = new Promise<Facts>((resolve, reject) => {
    thread.on('message', (answer: Answer) => {
      if (answer === 'works') works();
      else if (answer === 'rests') return;
      else if ('facts' in answer) resolve(answer.facts);
      else reject(new InputError(...answer.refused));
    });
    thread.once('error', reject);
    thread.once('exit', () => reject(new Error('the thread that measures a file has ended too early')));
  });
  // Whoever waits for them is told; where nobody does, as something else went wrong before, that is what counts.
  facts.catch(() => undefined);
  return { facts, end: () => thread.terminate() };
}
