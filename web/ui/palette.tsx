import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { type Act, offered } from './acts.ts';
import { Modal } from './modal.tsx';

/** So many are shown; who looks for another types on. */
const MOST = 12;

/** True if every word that is typed occurs. */
const fits = (label: string, typed: string): boolean => {
  const words = label.toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
};

/** Everything that can be done now: found by a few letters, done by Enter. */
export default function Palette({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const all = useStore(offered, (map) => map);
  const found = [...all.values()].flat().filter(({ label, isOff }) => !isOff && fits(label, typed));
  return (
    <Modal title="What do you want to do?" onClose={onClose}>
      <Combobox<Act>
        immediate
        onChange={(act) => {
          if (!act) return;
          onClose();
          // The dialog gives the focus back first.
          setTimeout(() => act.go());
        }}
      >
        <ComboboxInput
          autoFocus
          aria-label="Something to do"
          placeholder="some letters of it"
          className="w-full border-b border-rule bg-transparent py-1.5 outline-none placeholder:text-graphite focus:border-pine"
          onChange={(event) => setTyped(event.target.value)}
        />
        <ComboboxOptions static className="mt-2 max-h-[50dvh] overflow-y-auto">
          {found.slice(0, MOST).map((act) => (
            <ComboboxOption
              key={act.label}
              value={act}
              className="flex cursor-pointer items-baseline justify-between gap-6 px-2 py-1.5 data-focus:bg-pine-tint"
            >
              <span className="min-w-0 truncate">{act.label}</span>
              {act.shown && <kbd className="figure shrink-0 text-xs text-graphite">{act.shown}</kbd>}
            </ComboboxOption>
          ))}
        </ComboboxOptions>
        {found.length === 0 && <p className="mt-3 text-sm text-graphite">Nothing here has that name.</p>}
        {found.length > MOST && (
          <p className="mt-2 text-xs text-graphite">{found.length - MOST} more; type on to find them.</p>
        )}
      </Combobox>
    </Modal>
  );
}
