import { notify, notifyFailure } from '../ui/notify.tsx';
import { undoStep } from './job-change.ts';

/** Says that a job was changed, and takes that back where somebody wants it to. */
export function notifyWithUndo(words: string, onUndone: () => void, jobId: string): void {
  const undo = () => undoStep(jobId).then(onUndone, (error: unknown) => void notifyFailure(error));
  void notify(words, { label: 'Undo', onClick: () => void undo() });
}
