import { type Chain, messageOf } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import { useLayoutEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { Cut } from '../sound/cut.ts';
import { type PieceOutcome, Pieces, wayOf } from '../sound/pieces.ts';
import type { Player } from '../sound/player.ts';
import type { RenderedClip } from '../sound/workers/preview-worker.ts';
import { previewWorker } from '../sound/workers/workers.ts';
import type { SettledClip } from './set.ts';

/** A rendered clip, or a piece of one, and what it was made of. */
export interface Preview extends RenderedClip {
  readonly chain: Chain;
  /** No other preview has it. */
  readonly id: number;
  /** Frames of the source that it is a piece of; null for the whole. */
  readonly piece: Cut | null;
}

let previews = 0;

/** What is known of a clip's result. While a newer one is being made the last one stays, marked as such. */
export interface PreviewState {
  readonly made: Preview | null;
  readonly refused: string | null;
  /** False where `made` is of an earlier chain, or of another piece. */
  readonly isCurrent: boolean;
  /** What makes pieces, where the whole takes long and is not there yet. */
  readonly pieces: Pieces | null;
  /** The whole, which is being made beside: how much is done, 0..1, and the seconds left; null where none is on its way. */
  readonly whole: { readonly part: number; readonly left: number | null } | null;
}

/** A result with what it was made of: nothing else is ever said to be the result of that. */
interface Known {
  readonly source: SourceView;
  readonly chain: Chain;
  readonly made: Preview | null;
  readonly refused: string | null;
}

const isOf = (known: Known | null, source: SourceView, chain: Chain): known is Known =>
  // Another sound, or another device: what was made for the last one says nothing of this one.
  known?.source === source && known.chain.order.target === chain.order.target;

/** Renders a clip in the worker whenever its chain changes: what takes long, in pieces around the playhead first. */
export function usePreview(source: SourceView, settled: SettledClip, player: Player): PreviewState {
  const chain = 'chain' in settled ? settled.chain : null;
  const way = chain ? wayOf(chain) : 'whole';
  const { known, whole } = useWhole(source, way === 'pieces' ? null : chain, way !== 'whole');
  const pieces = useMemo(() => (chain && way !== 'whole' ? new Pieces(source, chain) : null), [source, chain, way]);
  useLayoutEffect(() => pieces?.hold(), [pieces]);
  const hasWhole = known !== null && known.chain === chain;
  const piece = usePiece(source, chain, hasWhole ? null : pieces, player);

  if (!chain) {
    const refused = 'refused' in settled ? settled.refused : null;
    return { made: null, refused, isCurrent: true, pieces: null, whole: null };
  }
  const best = pieces && !hasWhole ? piece : known;
  if (!isOf(best, source, chain)) return { made: null, refused: null, isCurrent: false, pieces, whole };
  const { made, refused } = best;
  const isCurrent = best.chain === chain && (hasWhole || !pieces || piece?.isHere === true);
  return { made, refused, isCurrent, pieces: hasWhole ? null : pieces, whole: hasWhole ? null : whole };
}

/** Makes a clip as a whole. */
function useWhole(source: SourceView, chain: Chain | null, isLong: boolean) {
  const [known, setKnown] = useState<Known | null>(null);
  const [whole, setWhole] = useState<PreviewState['whole']>(null);
  // At layout: the worker is at it while the lanes are drawn.
  useLayoutEffect(() => {
    setWhole(null);
    if (!chain) return;
    let isStale = false;
    const since = performance.now();
    const told = (part: number) => {
      const seconds = (performance.now() - since) / 1000;
      if (!isStale) setWhole({ part, left: part > 0.02 ? (seconds / part) * (1 - part) : null });
    };
    const take = (made: Preview | null, refused: string | null) => {
      if (!isStale) setKnown({ source, chain, made, refused });
    };
    previewWorker
      .run((remote) => remote.preview(source, chain, isLong ? Comlink.proxy(told) : undefined))
      .then(
        (outcome) => {
          if (outcome === null) return;
          if ('refused' in outcome) take(null, outcome.refused);
          else take({ ...outcome, chain, id: ++previews, piece: null }, null);
        },
        (error: unknown) => take(null, `The result could not be made: ${messageOf(error)}`),
      );
    return () => {
      isStale = true;
    };
  }, [source, chain, isLong]);
  return { known, whole };
}

/** Makes the piece that the playhead is in. */
function usePiece(source: SourceView, chain: Chain | null, pieces: Pieces | null, player: Player) {
  const [known, setKnown] = useState<(Known & { readonly index: number; readonly of: Pieces }) | null>(null);
  const index = useStore(player.store, ({ position }) => pieces?.indexAt(position) ?? 0);
  useLayoutEffect(() => {
    if (!pieces || !chain) return;
    let isStale = false;
    const take = (outcome: PieceOutcome) => {
      if (isStale) return;
      const isRefused = 'refused' in outcome;
      const made = isRefused ? null : { ...outcome, chain, id: ++previews, piece: outcome.range };
      setKnown({ source, chain, made, refused: isRefused ? outcome.refused : null, index, of: pieces });
    };
    pieces.at(index).then(take, () => undefined);
    return () => {
      isStale = true;
    };
  }, [source, chain, pieces, index]);
  return known && { ...known, isHere: known.of === pieces && known.index === index };
}
