import type { MessagePort } from 'node:worker_threads';
import { InputError } from '@tambur/core';
import { type ClipMade, type ClipTask, makeOne } from './clip.ts';
import { tellLifeTo } from './life.ts';

/** What a thread answers: an error loses its class on the way. */
export type ClipOutcome = ClipMade | { readonly refused: readonly [code: InputError['code'], words: string] };

/** Makes one file of several. Signs of life go to whoever watches over all of them. */
export default async function makeInThread({
  task,
  life,
}: {
  task: ClipTask;
  life: MessagePort;
}): Promise<ClipOutcome> {
  tellLifeTo(life);
  try {
    return await makeOne(task);
  } catch (error) {
    if (error instanceof InputError) return { refused: [error.code, error.message] };
    throw error;
  } finally {
    life.close();
  }
}
