import { MenuItem, MenuItems } from '@headlessui/react';
import type { Act } from './acts.ts';
import { Button } from './button.tsx';

/** The things that a menu offers. Stands in a Menu, behind its button. */
export const Acts = ({ acts }: { acts: readonly Act[] }) => (
  <MenuItems
    anchor={{ to: 'bottom end', padding: 8 }}
    className="z-40 max-w-80 border border-ink bg-paper py-1 outline-none"
  >
    {acts.map(({ label, shown, isOff, go }) => (
      <MenuItem key={label} disabled={isOff ?? false}>
        <Button
          kind="bare"
          onClick={go}
          className="flex w-full items-baseline justify-between gap-6 px-4 py-1.5 text-left data-disabled:opacity-45 data-focus:bg-pine-tint"
        >
          {label}
          {shown && <kbd className="figure text-xs text-graphite">{shown}</kbd>}
        </Button>
      </MenuItem>
    ))}
  </MenuItems>
);
