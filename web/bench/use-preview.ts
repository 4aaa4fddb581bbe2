import { type Chain, messageOf } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useState } from 'react';
import type { RenderedClip } from '../sound/workers/preview-worker.ts';
import { previewWorker } from '../sound/workers/workers.ts';
import type { SettledClip } from './set.ts';

/** A rendered clip, and what it was made of. */
export interface Preview extends RenderedClip {
  readonly chain: Chain;
  /** No other preview has it. */
  readonly id: number;
}

let previews = 0;

/** What is known of a clip's result. While a newer one is being made the last one stays, marked as such. */
export interface PreviewState {
  readonly made: Preview | null;
  readonly refused: string | null;
  /** False where `made` is of an earlier chain. */
  readonly isCurrent: boolean;
}

/** A result with what it was made of: nothing else is ever said to be the result of that. */
interface Known {
  readonly source: SourceView;
  readonly chain: Chain;
  readonly made: Preview | null;
  readonly refused: string | null;
}

/** Renders a clip in the worker whenever its chain changes. */
export function usePreview(source: SourceView, settled: SettledClip): PreviewState {
  const [known, setKnown] = useState<Known | null>(null);
  const chain = 'chain' in settled ? settled.chain : null;

  useEffect(() => {
    if (!chain) return;
    let isStale = false;
    const take = (made: Preview | null, refused: string | null) => {
      if (!isStale) setKnown({ source, chain, made, refused });
    };
    previewWorker
      .run((remote) => remote.preview(source, chain))
      .then(
        (outcome) => {
          if (outcome === null) return;
          if ('refused' in outcome) take(null, outcome.refused);
          else take({ ...outcome, chain, id: ++previews }, null);
        },
        (error: unknown) => take(null, `The result could not be made: ${messageOf(error)}`),
      );
    return () => {
      isStale = true;
    };
  }, [source, chain]);

  if ('refused' in settled) return { made: null, refused: settled.refused, isCurrent: true };
  // Another sound, or another device: what was made for the last one says nothing of this one.
  const isOf = known?.source === source && known.chain.order.target === settled.chain.order.target;
  if (!known || !isOf) return { made: null, refused: null, isCurrent: false };
  const { made, refused } = known;
  return { made, refused, isCurrent: known.chain === settled.chain };
}
