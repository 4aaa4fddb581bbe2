import { Description, Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { Button } from './button.tsx';

interface Props {
  readonly title: string;
  readonly text: string;
  readonly action: string;
  /** What the other button says. */
  readonly refusal: string;
  readonly onConfirm: () => void;
  readonly onClose: () => void;
}

/** Asks before something that cannot be undone. */
export function Confirm({ title, text, action, refusal, onConfirm, onClose }: Props) {
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/40 dark:bg-paper/70" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-md border border-ink bg-paper p-6">
          <DialogTitle className="text-lg font-semibold">{title}</DialogTitle>
          <Description className="mt-2">{text}</Description>
          <div className="mt-5 flex justify-end gap-2">
            <Button onClick={onClose}>{refusal}</Button>
            <Button kind="danger" onClick={onConfirm}>
              {action}
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
