import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Plus } from 'lucide-react';
import { Button } from '../ui/button.tsx';

/** A way by which audio comes into a job. */
export interface WayIn {
  readonly label: string;
  readonly go: () => void;
}

/** All ways in, behind one button. */
export function AddMenu({ ways }: { ways: readonly WayIn[] }) {
  return (
    <Menu>
      <MenuButton as={Button} kind="quiet" className="text-sm">
        <Plus className="size-3.5" aria-hidden /> Add audio
      </MenuButton>
      <MenuItems anchor="bottom end" className="z-40 border border-ink bg-paper py-1 outline-none">
        {ways.map(({ label, go }) => (
          <MenuItem key={label}>
            <Button kind="bare" onClick={go} className="block w-full px-4 py-1.5 text-left data-focus:bg-pine-tint">
              {label}
            </Button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
