import { type Reading, refuseTooLarge } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { errorFrom, OFFLINE } from './errors.ts';
import { listenToProgress } from './progress.ts';

/** What the user says of a file that does not say it itself. */
export interface UploadOptions {
  /** What headerless bytes are. */
  readonly reading?: Reading | undefined;
  /** Receives how much of the file has been sent, 0..1, and then how much of it is decoded, as far as anybody can tell. */
  readonly onProgress: (progress: { readonly sent: number; readonly decoded: number | null }) => void;
  readonly signal: AbortSignal;
}

/** Sends a file to the shelf. Uses XMLHttpRequest: fetch cannot tell how far it is. */
export function uploadSource(file: File, { reading, onProgress, signal }: UploadOptions): Promise<SourceView> {
  const importId = crypto.randomUUID();
  const stopListening = listenToProgress('import', importId, ({ frames, expected }) =>
    onProgress({ sent: 1, decoded: expected ? Math.min(1, frames / expected) : null }),
  );
  const sending = new Promise<SourceView>((resolve, reject) => {
    signal.throwIfAborted();
    // The server refuses it too, but it would hang up in the middle of the file.
    refuseTooLarge(file.name, file.size);
    const query = new URLSearchParams({ name: file.name, importId });
    if (reading) query.set('reading', JSON.stringify(reading));
    const request = new XMLHttpRequest();
    request.open('POST', `/api/sources?${query}`);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => onProgress({ sent: total ? loaded / total : 0, decoded: null });
    request.upload.onload = () => onProgress({ sent: 1, decoded: null });
    request.onload = () =>
      request.status === 201
        ? resolve(request.response as SourceView)
        : reject(errorFrom(request.status, request.response));
    request.onerror = () => reject(OFFLINE);
    request.onabort = () => reject(signal.reason);
    signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(file);
  });
  return sending.finally(stopListening);
}
