import { type Chain, messageOf } from '@tambur/core';
import type { SourceView, WholeView } from '@tambur/server';
import * as Comlink from 'comlink';
import { useEffect, useLayoutEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { chainOf, type SettledClip } from '../job/set.ts';
import type { Cut } from '../sound/cut.ts';
import { type PieceOutcome, Pieces, wayOf } from '../sound/pieces.ts';
import type { LanePlayer } from '../sound/player.ts';
import { makeWhole } from '../sound/wholes.ts';
import type { RenderedClip } from '../sound/workers/preview-worker.ts';
import { previewWorker } from '../sound/workers/workers.ts';

/** A rendered clip, or a piece of one, and what it was made of. */
export interface Preview extends RenderedClip {
  readonly chain: Chain;
  /** No other preview has it. */
  readonly id: number;
  /** Frames of the source that its bytes and its sound are a piece of; null if they are the whole. */
  readonly piece: Cut | null;
  /** The whole, where it lies on the server: what is said is said of it then. */
  readonly stored: WholeView | null;
}

/** True if what a preview says is said of the whole. */
export const saysAll = ({ piece, stored }: Preview): boolean => piece === null || stored !== null;

let previews = 0;

/** What is known of a clip's result. While a newer one is being made the last one stays, marked as such. */
export interface PreviewState {
  readonly made: Preview | null;
  readonly refused: string | null;
  /** False if `made` is of an earlier chain, or of another piece. */
  readonly isCurrent: boolean;
  /** What makes pieces, where the whole takes long and is not there yet. */
  readonly pieces: Pieces | null;
  /** The whole, which is being made beside; null if none is on its way. */
  readonly whole: WholeProgress | null;
}

/** How much of a whole is done, 0..1, and the seconds left; or why there will be none. */
export interface WholeProgress {
  readonly part: number;
  readonly left: number | null;
  readonly problem: string | null;
}

const BEGINNING: WholeProgress = { part: 0, left: null, problem: null };

function progressSince(since: number, part: number): WholeProgress {
  const seconds = (performance.now() - since) / 1000;
  return { part, left: part > 0.02 ? (seconds / part) * (1 - part) : null, problem: null };
}

/** A result with what it was made of: nothing else is ever said to be the result of that. */
interface KnownPreview {
  readonly source: SourceView;
  readonly chain: Chain;
  readonly made: Preview | null;
  readonly refused: string | null;
}

const isOf = (known: KnownPreview | null, source: SourceView, chain: Chain): known is KnownPreview =>
  // Another sound, or another device: what was made for the last one says nothing of this one.
  known?.source === source && known.chain.order.target === chain.order.target;

/** Renders a clip in the worker whenever its chain changes: what takes long, in pieces around the playhead first. */
export function usePreview(source: SourceView, settled: SettledClip, player: LanePlayer): PreviewState {
  const chain = chainOf(settled);
  const way = chain ? wayOf(chain) : 'whole';
  const { known, whole } = useWhole(source, way === 'pieces' ? null : chain, way !== 'whole');
  const pieces = useMemo(() => (chain && way !== 'whole' ? new Pieces(source, chain) : null), [source, chain, way]);
  useLayoutEffect(() => pieces?.hold(), [pieces]);
  const stored = useStoredWhole(source, way === 'pieces' ? chain : null);
  const hasWhole = known !== null && known.chain === chain;
  const piece = usePiece(source, chain, hasWhole ? null : pieces, player);
  const { view } = stored;
  const ofPiece = piece?.chain === chain ? piece.made : null;
  const withWhole = useMemo(() => {
    if (!ofPiece || !view) return null;
    const { facts, report, findings } = view;
    return { ...ofPiece, facts, report, findings, stored: view };
  }, [ofPiece, view]);

  if (!chain) {
    const refused = 'refused' in settled ? settled.refused : null;
    return { made: null, refused, isCurrent: true, pieces: null, whole: null };
  }
  const best = pieces && !hasWhole ? piece : known;
  if (!isOf(best, source, chain)) return { made: null, refused: null, isCurrent: false, pieces, whole };
  const { refused } = best;
  const made = (best === piece && withWhole) || best.made;
  const isAllThere = hasWhole || (made !== null && made.stored !== null);
  const isCurrent = best.chain === chain && (isAllThere || !pieces || piece?.isHere === true);
  return {
    made,
    refused,
    isCurrent,
    pieces: isAllThere ? null : pieces,
    whole: isAllThere ? null : (stored.progress ?? whole),
  };
}

/** Makes a clip as a whole. */
function useWhole(source: SourceView, chain: Chain | null, isLong: boolean) {
  const [known, setKnown] = useState<KnownPreview | null>(null);
  const [whole, setWhole] = useState<PreviewState['whole']>(null);
  // At layout: the worker is at it while the lanes are drawn.
  useLayoutEffect(() => {
    setWhole(null);
    if (!chain) return;
    let isStale = false;
    const since = performance.now();
    const told = (part: number) => {
      if (!isStale) setWhole(progressSince(since, part));
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
          else take({ ...outcome, chain, id: ++previews, piece: null, stored: null }, null);
        },
        (error: unknown) => take(null, `The result could not be made: ${messageOf(error)}`),
      );
    return () => {
      isStale = true;
    };
  }, [source, chain, isLong]);
  return { known, whole };
}

/** A chain has to stay the same for so long before the server begins, ms: its work is not for every step of a drag. */
const SETTLED_MS = 1000;

/** Has a clip made as a whole by the server, where it is too large for the page. */
function useStoredWhole(source: SourceView, chain: Chain | null) {
  const [known, setKnown] = useState<{ readonly chain: Chain; readonly view: WholeView } | null>(null);
  const [progress, setProgress] = useState<WholeProgress | null>(null);
  useEffect(() => {
    setProgress(chain && BEGINNING);
    if (!chain) return;
    const stop = new AbortController();
    const { signal } = stop;
    const timer = setTimeout(() => {
      const since = performance.now();
      const told = (part: number) => signal.aborted || setProgress(progressSince(since, part));
      makeWhole(source, chain, { signal, onProgress: told }).then(
        (view) => signal.aborted || setKnown({ chain, view }),
        (error: unknown) => signal.aborted || setProgress({ ...BEGINNING, problem: messageOf(error) }),
      );
    }, SETTLED_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [source, chain]);
  return { view: known?.chain === chain ? (known?.view ?? null) : null, progress };
}

/** Makes the piece that the playhead is in. */
function usePiece(source: SourceView, chain: Chain | null, pieces: Pieces | null, player: LanePlayer) {
  const [known, setKnown] = useState<(KnownPreview & { readonly index: number; readonly of: Pieces }) | null>(null);
  const index = useStore(player.store, ({ position }) => pieces?.indexAt(position) ?? 0);
  useLayoutEffect(() => {
    if (!pieces || !chain) return;
    let isStale = false;
    const take = (outcome: PieceOutcome) => {
      if (isStale) return;
      const isRefused = 'refused' in outcome;
      const made = isRefused ? null : { ...outcome, chain, id: ++previews, piece: outcome.range, stored: null };
      setKnown({ source, chain, made, refused: isRefused ? outcome.refused : null, index, of: pieces });
    };
    pieces.at(index).then(take, () => undefined);
    return () => {
      isStale = true;
    };
  }, [source, chain, pieces, index]);
  return known && { ...known, isHere: known.of === pieces && known.index === index };
}
