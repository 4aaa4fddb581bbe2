import { InputError } from '@tambur/core';
import { synthesiser } from '@tambur/disk';
import { type Prompt, speak } from '@tambur/speech';

export type SpeechOutcome = { readonly wav: Uint8Array<ArrayBuffer> } | { readonly refused: string };

/** Speaks one prompt. */
export default async function speakOne(prompt: Prompt): Promise<SpeechOutcome> {
  try {
    return { wav: await speak(prompt, await synthesiser()) };
  } catch (error) {
    if (error instanceof InputError) return { refused: error.message };
    throw error;
  }
}
