import { refuseTooLarge } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { errorFrom, OFFLINE } from './client.ts';

/** Sends a file to the shelf. `onProgress` is told how much of it has gone, 0..1. Uses XMLHttpRequest: fetch cannot tell. */
export function uploadSource(file: File, onProgress: (sent: number) => void, signal: AbortSignal): Promise<SourceView> {
  return new Promise((resolve, reject) => {
    // The server refuses it too, but it would hang up in the middle of the file.
    refuseTooLarge(file.name, file.size);
    const request = new XMLHttpRequest();
    request.open('POST', `/api/sources?name=${encodeURIComponent(file.name)}`);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => onProgress(total ? loaded / total : 0);
    request.upload.onload = () => onProgress(1);
    request.onload = () =>
      request.status === 201
        ? resolve(request.response as SourceView)
        : reject(errorFrom(request.status, request.response));
    request.onerror = () => reject(OFFLINE);
    request.onabort = () => reject(signal.reason);
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
