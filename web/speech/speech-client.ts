import { type Manner, nameOfPrompt } from '@tambur/speech';
import { errorFrom, OFFLINE } from '../api/errors.ts';
import { uploadSource } from '../api/upload.ts';

/** A prompt as a WAV file, named after its words. */
export async function speak(text: string, manner: Manner, signal: AbortSignal): Promise<File> {
  const answer = await fetch('/api/speech', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ text, ...manner }),
    signal,
  }).catch((error: unknown) => {
    throw signal.aborted ? error : OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return new File([await answer.arrayBuffer()], nameOfPrompt(text), { type: 'audio/wav' });
}

/** The same, as a source on the shelf. */
export const keepSpoken = async (text: string, manner: Manner, signal: AbortSignal) =>
  uploadSource(await speak(text, manner, signal), { onProgress: () => undefined, signal });
