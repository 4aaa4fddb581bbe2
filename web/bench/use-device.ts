import { messageOf, type Pcm, type Target } from '@tambur/core';
import { useEffect, useState } from 'react';
import { listenWorker } from '../sound/workers/workers.ts';
import type { Preview } from './use-preview.ts';

interface OnDevice {
  readonly sound: Pcm | null;
  /** Why nothing is heard. */
  readonly refused: string | null;
}

const UNKNOWN = { sound: null, refused: null };

/** What the device plays of a finished file, made when somebody wants to hear it. */
export function useDevice(
  preview: Preview | null,
  target: Target,
  rate: number,
  isWanted: boolean,
): OnDevice & { readonly isAwaited: boolean } {
  const [known, setKnown] = useState<(OnDevice & { readonly of: Preview }) | null>(null);
  const whole = preview && !preview.piece ? preview : null;
  useEffect(() => {
    if (!whole || !isWanted) return;
    let isStale = false;
    const take = (found: OnDevice) => {
      if (!isStale) setKnown({ ...found, of: whole });
    };
    const { bytes, facts, chain } = whole;
    const file = { bytes, path: chain.fileName, container: facts.container };
    listenWorker
      .run((remote) => remote.onDevice(file, target.player, rate))
      .then(
        (found) => take('refused' in found ? { sound: null, refused: found.refused } : { sound: found, refused: null }),
        (error: unknown) => take({ sound: null, refused: messageOf(error) }),
      );
    return () => {
      isStale = true;
    };
  }, [whole, target, rate, isWanted]);
  const isKnown = known !== null && known.of === whole;
  return { ...(isKnown ? known : UNKNOWN), isAwaited: isWanted && whole !== null && !isKnown };
}
