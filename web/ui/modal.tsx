import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from './button.tsx';

interface Props {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
  /** Buttons at the foot. */
  readonly actions?: ReactNode;
  readonly wide?: boolean;
}

/** A view of its own above the page: Escape and the cross leave it. */
export function Modal({ title, onClose, children, actions, wide = false }: Props) {
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/40 dark:bg-paper/70" />
      <div className="fixed inset-0 overflow-y-auto">
        <div className="flex min-h-full items-start justify-center p-3 sm:items-center sm:p-6">
          <DialogPanel className={`w-full border border-ink bg-paper ${wide ? 'max-w-4xl' : 'max-w-2xl'}`}>
            <header className="flex items-center gap-4 border-b border-hairline px-5 py-3">
              <DialogTitle className="min-w-0 flex-1 truncate text-lg font-semibold">{title}</DialogTitle>
              <Button kind="quiet" aria-label="Close" onClick={onClose}>
                <X className="size-4" aria-hidden />
              </Button>
            </header>
            <div className="px-5 py-4">{children}</div>
            {actions && (
              <footer className="flex flex-wrap items-end justify-end gap-2 border-t border-hairline px-5 py-3">
                {actions}
              </footer>
            )}
          </DialogPanel>
        </div>
      </div>
    </Dialog>
  );
}
