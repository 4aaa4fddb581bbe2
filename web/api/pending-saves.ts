/** Saves that go on after their view was left: whoever loads the same job waits for them. */
const pending = new Map<string, Promise<unknown>>();

export function keepPending(jobId: string, save: Promise<unknown>): void {
  pending.set(jobId, save);
  void save.finally(() => pending.get(jobId) === save && pending.delete(jobId));
}

/** Resolves when nothing of the job is on its way to the server any more. */
export const nothingPending = (jobId: string): Promise<unknown> => pending.get(jobId) ?? Promise.resolve();
