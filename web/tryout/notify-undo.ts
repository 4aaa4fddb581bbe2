import { undoStep } from '../job/job-change.ts';
import { notify, notifyFailure } from '../ui/notify.tsx';

/** Says that a job was changed, and takes that back where somebody wants it to. */
export function notifyWithUndo(words: string, onUndone: () => void, jobId: string): void {
  const undo = () => undoStep(jobId).then(onUndone, (error: unknown) => void notifyFailure(error));
  void notify(words, { label: 'Undo', onClick: () => void undo() });
}
