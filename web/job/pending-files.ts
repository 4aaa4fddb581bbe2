/** Files dropped where a job is started; the bench takes them once it is open. */
const pending = new Map<string, readonly File[]>();

export const leaveFiles = (jobId: string, files: readonly File[]): void => void pending.set(jobId, files);

export function takeFiles(jobId: string): readonly File[] {
  const files = pending.get(jobId) ?? [];
  pending.delete(jobId);
  return files;
}
