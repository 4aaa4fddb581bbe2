import { Menu, MenuButton } from '@headlessui/react';
import { Plus } from 'lucide-react';
import { Button } from '../ui/button.tsx';
import { type Act, Acts } from '../ui/menu.tsx';

/** All ways by which audio comes into a job, behind one button. */
export const AddMenu = ({ ways }: { ways: readonly Act[] }) => (
  <Menu>
    <MenuButton as={Button} kind="quiet" className="text-sm">
      <Plus className="size-3.5" aria-hidden /> Add audio
    </MenuButton>
    <Acts acts={ways} />
  </Menu>
);
