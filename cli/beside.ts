import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { OpenOptions } from '@tambur/codecs';
import { type Facts, InputError, likelyFacts, type ReadBack, type Reading, type SoundStream } from '@tambur/core';
import type { DiskStore, Growth } from '@tambur/disk';
import { works } from './life.ts';

/** What a second thread does while a long sound's file is made, and what it answers. */
export interface Companion {
  /** The source, whose levels are measured first: they make the likely facts sure. */
  readonly path: string;
  readonly options: OpenOptions;
  readonly likely: Facts;
  /** The file that is being made, which is read again meanwhile; null if only a library reads it. */
  readonly made: {
    readonly path: string;
    readonly growth: Growth['shared'];
    readonly reading: Reading;
  } | null;
}
export type Answer =
  | 'works'
  | 'rests'
  | { readonly facts: Facts }
  | { readonly found: ReadBack }
  | { readonly refused: readonly [code: InputError['code'], words: string] };

/** Shorter sounds, in seconds, are made before a thread would have started. */
const LEAST = 120;

/** The likely facts of a sound that is worth a second thread, if there is a core for it. */
export async function likelyBeside(stream: SoundStream): Promise<Facts | null> {
  const { expectedFrames, sampleRate } = stream.stated;
  const isLong = expectedFrames !== null && expectedFrames / sampleRate >= LEAST;
  return isLong && availableParallelism() > 1 ? likelyFacts(stream) : null;
}

/** What is read again of a file while a store writes it. */
export const madeIn = ({ path, growth }: DiskStore, reading: Reading): Companion['made'] => ({
  path,
  growth: growth.shared,
  reading,
});

/** Starts the second thread. It has to be ended. */
export function startBeside(workerData: Companion) {
  const thread = new Worker(new URL('./beside-thread.js', import.meta.url), { workerData });
  const answers = <T>(pick: (answer: Exclude<Answer, string>) => T | null) => {
    const answer = new Promise<T>((resolve, reject) => {
      thread.on('message', (told: Answer) => {
        if (typeof told === 'string') return;
        if ('refused' in told) reject(new InputError(...told.refused));
        const wanted = pick(told);
        if (wanted !== null) resolve(wanted);
      });
      thread.once('error', reject);
      thread.once('exit', () => reject(new Error('the second thread ended early')));
    });
    // Whoever waits for it is told; where nobody does, as something else went wrong before, that is what counts.
    answer.catch(() => undefined);
    return answer;
  };
  thread.on('message', (told: Answer) => {
    if (told === 'works') works();
  });
  return {
    facts: answers((answer) => ('facts' in answer ? answer.facts : null)),
    found: answers((answer) => ('found' in answer ? answer.found : null)),
    end: () => thread.terminate(),
  };
}
