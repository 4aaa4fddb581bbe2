import type { Chain } from '@tambur/core';
import type { SourceView, WholeView } from '@tambur/server';
import { api, unwrap } from '../api/client.ts';
import { listenToProgress } from '../api/progress.ts';
import { type StoredSound, soundOnDevice } from './samples.ts';

interface WholeRequest {
  readonly signal: AbortSignal;
  /** Told how much is done, 0..1. */
  readonly onProgress: (part: number) => void;
}

/** Has a whole played by its device, on the server; gives what is heard. */
export const playOnDevice = async (whole: WholeView, signal: AbortSignal): Promise<StoredSound> =>
  soundOnDevice(whole, await unwrap(api.wholes[':id'].device.$post({ param: { id: whole.id } }, { init: { signal } })));

/** Has a clip made as a whole on the server, for as long as it is waited for. */
export async function makeWhole(
  { id: source }: SourceView,
  { order: { settings, target, stem = 'clip' } }: Chain,
  { signal, onProgress }: WholeRequest,
): Promise<WholeView> {
  const progressId = crypto.randomUUID();
  const stopListening = listenToProgress('whole', progressId, ({ part }) => onProgress(part));
  try {
    return await unwrap(
      api.wholes.$post({ json: { progressId, source, settings, target, stem } }, { init: { signal } }),
    );
  } finally {
    stopListening();
  }
}
