import { Menu, MenuButton } from '@headlessui/react';
import { formatCount, type RankedClip } from '@tambur/core';
import { Ellipsis } from 'lucide-react';
import { useStore } from 'zustand';
import { type JobStore, selectedClip } from '../job/job-store.ts';
import { type Act, useActs } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { Acts } from '../ui/menu.tsx';

interface Props {
  readonly store: JobStore;
  readonly clips: readonly RankedClip[];
  readonly onRemove: (ids: readonly string[]) => void;
}

/** What can be done with the clips that are picked. */
export function ClipMenu({ store, clips, onRemove }: Props) {
  const { ids } = useStore(store, ({ selection }) => selection);
  const shown = useStore(store, selectedClip);
  const picked = clips.filter(({ id }) => ids.has(id)).map(({ id }) => id);
  const { duplicateClips, copyWishes, movePicked, selectAll } = store.getState();
  const others = picked.filter((id) => id !== shown?.id);
  const which = picked.length === 1 ? 'the clip' : `${formatCount(picked.length)} clips`;
  const acts: readonly Act[] = shown
    ? [
        { label: 'Pick all', shown: 'Ctrl A', go: selectAll },
        { label: `Duplicate ${which}`, go: () => duplicateClips(picked) },
        {
          label: `Settings of ${shown.name} for the others picked`,
          isOff: others.length === 0,
          go: () => copyWishes(shown.id, others),
        },
        { label: 'Move up', shown: 'Alt ↑', isOff: ids.has(clips[0]?.id ?? ''), go: () => movePicked(-1) },
        { label: 'Move down', shown: 'Alt ↓', isOff: ids.has(clips.at(-1)?.id ?? ''), go: () => movePicked(1) },
        { label: `Remove ${which}`, shown: 'Del', go: () => onRemove(picked) },
      ]
    : [];
  useActs(acts);
  if (!shown) return null;
  return (
    <Menu>
      <MenuButton as={Button} kind="quiet" aria-label="What to do with the picked clips" title={`With ${which} …`}>
        <Ellipsis className="size-4" aria-hidden />
      </MenuButton>
      <Acts acts={acts} />
    </Menu>
  );
}
