import type { ServerEvent } from '@tambur/server';

type ImportEvent = Extract<ServerEvent, { type: 'import' }>;

const listeners = new Map<string, (event: ImportEvent) => void>();

/** Hears how far the server is with one import, until the function that it gives back is called. */
export function listenToImport(importId: string, listener: (event: ImportEvent) => void): () => void {
  listeners.set(importId, listener);
  return () => listeners.delete(importId);
}

export const tellProgress = (event: ImportEvent): void => listeners.get(event.importId)?.(event);
