import { InputError, type Pcm } from '@tambur/core';

/** The memory of a sound, for handing it over without copying. */
export const buffersOf = (pcm: Pcm): ArrayBuffer[] => pcm.channels.map((samples) => samples.buffer as ArrayBuffer);

/** What cannot be used, as a value: the class of an error is lost between threads. */
export interface Refused {
  readonly refused: string;
  readonly code: string;
}

/** @throws whatever is no `InputError` */
export function asRefusal(error: unknown): Refused {
  if (error instanceof InputError) return { refused: error.message, code: error.code };
  throw error;
}
