import { messageOf, type Pcm, type PcmReader, type Target } from '@tambur/core';
import type { WholeView } from '@tambur/server';
import { useEffect, useState } from 'react';
import { storedReader } from '../sound/samples.ts';
import { playOnDevice } from '../sound/wholes.ts';
import { listenWorker } from '../sound/workers/workers.ts';
import { type Preview, saysAll } from './use-preview.ts';

interface OnDevice {
  readonly sound: Pcm | PcmReader | null;
  /** Why nothing is heard. */
  readonly refused: string | null;
}

const UNKNOWN = { sound: null, refused: null };

/** Played in the page, or on the server where the whole is there. */
async function played(
  finished: Preview | WholeView,
  target: Target,
  rate: number,
  signal: AbortSignal,
): Promise<OnDevice> {
  if (!('bytes' in finished)) return { sound: storedReader(await playOnDevice(finished, signal)), refused: null };
  const { bytes } = finished;
  const found = await listenWorker.run((remote) => remote.onDevice(bytes, target.player, rate));
  return 'refused' in found ? { sound: null, refused: found.refused } : { sound: found, refused: null };
}

/** What the device plays of a finished file, made when somebody wants to hear it. */
export function useDevice(
  preview: Preview | null,
  target: Target,
  rate: number,
  isWanted: boolean,
): OnDevice & { readonly isAwaited: boolean } {
  const [known, setKnown] = useState<{ readonly of: unknown; readonly found: OnDevice } | null>(null);
  const of = preview && saysAll(preview) ? (preview.stored ?? preview) : null;
  useEffect(() => {
    if (!of || !isWanted) return;
    const stop = new AbortController();
    const take = (found: OnDevice) => stop.signal.aborted || setKnown({ of, found });
    played(of, target, rate, stop.signal).then(take, (error: unknown) =>
      take({ sound: null, refused: messageOf(error) }),
    );
    return () => stop.abort();
  }, [of, target, rate, isWanted]);
  const isKnown = known !== null && known.of === of;
  return { ...(isKnown ? known.found : UNKNOWN), isAwaited: isWanted && of !== null && !isKnown };
}
