/** Whoever works on a job wants to know that it was changed. */
type Listener = (revision: number) => void;

const listeners = new Map<string, Set<Listener>>();

/** Calls `listener` with the revision of each change of a job, until the function that it gives back is called. */
export function listenToJob(jobId: string, listener: Listener): () => void {
  const all = listeners.get(jobId) ?? new Set();
  listeners.set(jobId, all.add(listener));
  return () => all.delete(listener);
}

/** Says that a job has changed. */
export function tellJob(jobId: string, revision: number): void {
  for (const listener of listeners.get(jobId) ?? []) listener(revision);
}

/** After a gap in the server's events anything may have changed: every open job looks. */
export function tellEveryJob(): void {
  for (const all of listeners.values()) for (const listener of all) listener(Number.POSITIVE_INFINITY);
}
