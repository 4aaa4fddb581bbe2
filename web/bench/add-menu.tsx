import { Menu, MenuButton } from '@headlessui/react';
import { Plus } from 'lucide-react';
import type { Act } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { Acts } from '../ui/menu.tsx';

/** All ways by which audio comes into a job, behind one button. */
export const AddMenu = ({ ways }: { ways: readonly Act[] }) => (
  <Menu>
    <MenuButton as={Button} kind="quiet" className="text-sm">
      <Plus className="size-3.5" aria-hidden /> Add audio
    </MenuButton>
    <Acts acts={ways} />
  </Menu>
);
