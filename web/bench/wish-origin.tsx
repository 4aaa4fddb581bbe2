import { type RankedClip, type StationId, stations } from '@tambur/core';
import { RotateCcw } from 'lucide-react';
import { useStore } from 'zustand';
import type { JobStore } from '../job/job-store.ts';
import { Button } from '../ui/button.tsx';

interface Props {
  readonly id: StationId;
  readonly clip: RankedClip;
  /** True if the station does what is wished, here or for all clips. */
  readonly byHand: boolean;
  readonly store: JobStore;
  readonly onAutomatic: () => void;
}

/** Whose wish a station follows: this clip's, or that of all clips; and how to give it to all, or take it back. */
export function WishOrigin({ id, clip, byHand, store, onAutomatic }: Props) {
  const forAll = useStore(store, ({ job }) => (id === 'cut' ? undefined : job.wishes[id]));
  const { wishForAll, forgetForAll, likeOthers } = store.getState();
  const automatic = (
    <Button kind="quiet" className="text-sm" disabled={!byHand} onClick={onAutomatic}>
      <RotateCcw className="size-3.5" aria-hidden /> Back to automatic
    </Button>
  );
  if (id === 'cut') return automatic;
  const own = clip.wishes[id];
  const { title } = stations[id];
  return (
    <span className="flex flex-wrap items-center gap-x-1 text-sm">
      {forAll && !own && (
        <>
          <span className="bg-pine-tint px-1.5">as for all clips</span>
          <Button
            kind="quiet"
            title={`${title}: all clips have no wish here any more`}
            onClick={() => forgetForAll(id)}
          >
            Not for all
          </Button>
        </>
      )}
      {forAll && own && (
        <Button kind="quiet" title={`${title}: what is wished for all clips`} onClick={() => likeOthers(clip.id, id)}>
          As for all clips
        </Button>
      )}
      {own && own !== 'automatic' && (
        <Button
          kind="quiet"
          title={`${title}: this for every clip that has nothing of its own`}
          onClick={() => wishForAll(clip.id, id)}
        >
          For all clips
        </Button>
      )}
      {automatic}
    </span>
  );
}
