import type { ServerEvent } from '@tambur/server';

type EventOf<Type> = Extract<ServerEvent, { type: Type }>;
type ProgressEvent = EventOf<'import' | 'whole'>;

const idOf = (event: ProgressEvent): string => (event.type === 'import' ? event.importId : event.progressId);

const listeners = new Map<string, (event: ProgressEvent) => void>();

/** Hears how far the server is with one request that the page has named, until the function that it gives back is called. */
export function listenToProgress<Type extends ProgressEvent['type']>(
  type: Type,
  id: string,
  listener: (event: EventOf<Type>) => void,
): () => void {
  listeners.set(id, (event) => event.type === type && listener(event as EventOf<Type>));
  return () => listeners.delete(id);
}

export const tellProgress = (event: ProgressEvent): void => listeners.get(idOf(event))?.(event);
