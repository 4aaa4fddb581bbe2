import { Keyboard } from 'lucide-react';
import { useState } from 'react';
import { useAct } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { KEYS, withKey } from './keys.ts';

/** The keys of a handle that has the focus, which are its own. */
const OF_A_HANDLE = [
  { shown: '← →', does: 'Move an end of the cut by 10 ms, where it has the focus' },
  { shown: 'Shift ← →', does: 'by 100 ms' },
  { shown: 'Alt ← →', does: 'by one frame' },
] as const;

/** The keys of the bench, on demand. */
export function KeyMap() {
  const [isOpen, setOpen] = useState(false);
  useAct(KEYS.help, () => setOpen(true), { useKey: true });
  return (
    <>
      <Button
        kind="quiet"
        className="max-lg:hidden"
        aria-label="Keys"
        title={withKey('Keys', 'help')}
        onClick={() => setOpen(true)}
      >
        <Keyboard className="size-4" aria-hidden />
      </Button>
      {isOpen && (
        <Modal title="Keys" onClose={() => setOpen(false)}>
          <dl className="columns-1 gap-x-8 text-sm sm:columns-2">
            {[...Object.values(KEYS), ...OF_A_HANDLE].map(({ shown, does }) => (
              <div key={shown} className="flex break-inside-avoid gap-3 border-b border-hairline py-1">
                <dt className="figure w-24 shrink-0">
                  <kbd>{shown}</kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </Modal>
      )}
    </>
  );
}
