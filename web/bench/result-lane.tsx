import { formatSeconds, frameCount } from '@tambur/core';
import { type Dispatch, type SetStateAction, useCallback, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { Canvas } from '../sound/canvas.tsx';
import type { Cut } from '../sound/cut.ts';
import { drawGrid, drawMarks, marksOf } from '../sound/marks.ts';
import type { LanePlayer } from '../sound/player.ts';
import { Ruler } from '../sound/ruler.tsx';
import { soundOfWhole } from '../sound/samples.ts';
import { useSize } from '../sound/use-size.ts';
import type { View } from '../sound/view.ts';
import { drawSteps, drawWaveform, extentOfSamples, strengthOfSamples } from '../sound/waveform.ts';
import { colour } from '../ui/theme.ts';
import { pointedWords, Reading } from './lane-reading.tsx';
import { looks } from './looks.ts';
import { useLaneData } from './use-lane-data.ts';
import { useLaneView } from './use-lane-view.ts';
import type { Preview, PreviewState, WholeProgress } from './use-preview.ts';

interface Props {
  readonly preview: PreviewState;
  readonly player: LanePlayer;
  readonly cut: Cut;
  readonly source: { readonly frames: number; readonly sampleRate: number };
  /** What the source's lane shows, which this lane shows too where both are on one axis. */
  readonly view: View;
  readonly setView: Dispatch<SetStateAction<View>>;
  /** Of the device, in frames of the source; null if it has none. */
  readonly bar: number | null;
  /** In a bar. */
  readonly beats: number;
  /** True if a station is open below. */
  readonly isLow: boolean;
}

/** Lanes as high as that have a ruler below the result too. */
const HIGH_ENOUGH = 64;

/** Drawn as steps where at least this many pixels fall on a frame. */
const STEPS_FROM = 2;

/** The result as it will play, drawn from the finished bytes: on an axis of its own, or on that of the source. */
export function ResultLane({
  preview,
  player,
  cut,
  source,
  view: sourceView,
  setView: setSourceView,
  bar,
  beats,
  isLow,
}: Props) {
  const { made } = preview;
  const stored = made?.stored ?? null;
  const piece = made && !stored ? made.piece : null;
  const frames = made ? (piece ? made.chain.stations.ends.plan.frames : made.facts.frames) : 0;
  const rate = made?.facts.sampleRate ?? source.sampleRate;
  const channels = made?.facts.channels ?? 1;
  const isAligned = useStore(looks, (state) => state.isAligned);
  const height = useStore(looks, (state) => state.laneHeight);
  const lane = useRef<HTMLDivElement>(null);
  const { width } = useSize(lane);

  // What is seen of the result, or of a piece, stays the same part of it when its length or its rate changes.
  const [part, setPart] = useState<View>({ from: 0, to: 1 });
  const held = made ? (piece ? frameCount(made.pcm) : frames) : 0;
  const scale = Math.max(1, held);
  const own = useMemo(() => ({ from: part.from * scale, to: part.to * scale }), [part, scale]);
  const setOwn = useCallback<Dispatch<SetStateAction<View>>>(
    (next) =>
      setPart((before) => {
        const { from, to } =
          typeof next === 'function' ? next({ from: before.from * scale, to: before.to * scale }) : next;
        return { from: from / scale, to: to / scale };
      }),
    [scale],
  );
  const perFrame = rate / source.sampleRate;
  const toResult = (frame: number) => (frame - cut.start) * perFrame;
  /** The first frame of the result that is there. */
  const first = piece ? Math.round(toResult(piece.start)) : 0;
  const shown = isAligned
    ? { from: toResult(sourceView.from), to: toResult(sourceView.to) }
    : { from: own.from + first, to: own.to + first };
  const { from, to } = shown;
  const seek = (frame: number) => player.seek(isAligned ? frame : cut.start + Math.round((frame + first) / perFrame));
  const { selection, frameAt, handlers } = useLaneView(
    lane,
    isAligned
      ? { view: sourceView, setView: setSourceView, frames: source.frames, onSeek: seek }
      : { view: own, setView: setOwn, frames: scale, onSeek: seek },
  );
  const [pointed, setPointed] = useState<number | null>(null);
  const resultFrame = pointed === null ? null : isAligned ? toResult(pointed) : pointed + first;

  const bars = useMemo(() => (bar ? { from: 0, bar: bar * perFrame, beats } : null), [bar, perFrame, beats]);
  const { wave, error } = useWave(made, first, shown, width);
  const refused = preview.refused ?? error?.message;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, w, h);
      if (!wave) return;
      const { extent, strength, near } = wave;
      const tone = colour('pine');
      // Beside the result there is nothing.
      const place = (frame: number) => ((frame - from) / (to - from)) * w;
      const [left, right] = [Math.max(0, place(first)), Math.min(w, place(first + held))];
      context.fillStyle = colour('hairline');
      for (let channel = 0; channel < channels; channel++) {
        context.fillRect(left, (h / channels) * (channel + 0.5), right - left, 1);
      }
      context.save();
      context.beginPath();
      context.rect(left, 0, right - left, h);
      context.clip();
      const view = { from, to };
      if (near && w / (to - from) >= STEPS_FROM) {
        drawSteps(context, w, h, { from: from - near.from, to: to - near.from }, near.channels, tone);
      } else {
        const peaks = colour('pine-peak');
        const ribbon = strength && { strength, peakAt: () => peaks };
        drawWaveform(context, w, h, view, channels, extent, () => tone, ribbon);
      }
      if (bar) {
        const grid = { from: 0, to: frames, step: bar * perFrame };
        drawGrid(context, w, h, view, grid, colour('saffron-mark'));
      }
      drawMarks(context, w, h, view, marksOf(extent, channels, view, w), {
        flattened: colour('brick'),
        silence: colour('graphite'),
      });
      context.restore();
    },
    [wave, channels, first, held, from, to, bar, frames, perFrame],
  );
  const position = useStore(player.store, (state) => state.position);
  const place = (toResult(position) - from) / (to - from);
  const isHeard = made !== null && toResult(position) >= 0 && toResult(position) <= frames;

  return (
    <>
      <div
        ref={lane}
        className={`relative h-[clamp(4.5rem,10dvh,10rem)] touch-pan-y select-none border-y border-hairline wide:h-[22dvh] ${isLow ? 'lg:max-wide:h-[calc(0.85*var(--lane))]' : 'lg:max-wide:h-[18dvh]'}`}
        data-testid="result-lane"
        data-current={preview.isCurrent}
        {...handlers}
        onPointerMove={(event) => {
          setPointed(frameAt(event));
          handlers.onPointerMove(event);
        }}
        onPointerLeave={() => setPointed(null)}
      >
        <Canvas
          label={made ? `Waveform of the result, ${formatSeconds(frames / rate)}` : 'No result yet'}
          className="absolute inset-0 size-full"
          draw={draw}
        />
        {selection && <Selection selection={selection} view={isAligned ? sourceView : own} />}
        {isHeard && place >= 0 && place <= 1 && (
          <div className="pointer-events-none absolute inset-y-0 w-px bg-brick" style={{ left: `${place * 100}%` }} />
        )}
        <Reading isLeft={resultFrame !== null && (resultFrame - from) / (to - from) > 0.55}>
          {wave &&
            resultFrame !== null &&
            resultFrame >= first &&
            resultFrame < first + held &&
            pointedWords(Math.floor(resultFrame), rate, channels, (to - from) / Math.max(1, width), wave.extent)}
        </Reading>
        {piece && <PieceNote preview={preview} />}
        {refused ? (
          <p role="alert" className="absolute inset-0 flex items-center justify-center bg-brick-tint px-6 text-center">
            {refused}
          </p>
        ) : (
          !made && (
            <p role="status" className="absolute inset-0 flex items-center justify-center text-sm text-graphite">
              making the result …
            </p>
          )
        )}
      </div>
      {made && (
        <div className={isLow && height < HIGH_ENOUGH ? 'lg:max-wide:hidden' : ''}>
          <Ruler view={shown} sampleRate={rate} frames={frames} bars={bars} />
        </div>
      )}
    </>
  );
}

/** ", 1:52 left". */
const leftWords = (seconds: number | null): string =>
  seconds === null ? '' : `, ${formatSeconds(Math.ceil(seconds)).replace('.000', '')} left`;

/** How far the whole is, or why there will be none. */
const wholeWords = ({ part, left, problem }: WholeProgress): string =>
  problem === null ? `the whole ${Math.floor(100 * part)} %${leftWords(left)}` : `no whole: ${problem}`;

/** What is drawn of a result: of what the page holds, or in ranges of what lies on the server; null while it is on its way. And why it cannot be read. */
function useWave(made: Preview | null, first: number, view: View, width: number) {
  const stored = made?.stored ?? null;
  const pcm = stored ? null : (made?.pcm ?? null);
  const here = useMemo(
    () =>
      pcm && {
        extent: extentOfSamples(pcm.channels, first),
        strength: strengthOfSamples(pcm.channels, first),
        near: { from: first, channels: pcm.channels },
      },
    [pcm, first],
  );
  const { extent, strength, samples, error } = useLaneData(stored && soundOfWhole(stored), view, width);
  const there = useMemo(() => extent && { extent, strength, near: samples }, [extent, strength, samples]);
  return { wave: stored ? (there ?? null) : here, error };
}

/** What is seen is a piece; what of it is provisional, and how far the whole is. */
function PieceNote({ preview: { pieces, whole } }: { readonly preview: PreviewState }) {
  const { provisional = [] } = pieces ?? {};
  return (
    <p
      role="status"
      className="pointer-events-none absolute top-0 right-0 z-10 bg-paper/90 px-1.5 text-xs"
      data-testid="piece"
    >
      {[
        'a piece',
        ...(provisional.length > 0 ? [`provisional: ${provisional.join(', ')}`] : []),
        ...(whole ? [wholeWords(whole)] : []),
      ].join(' · ')}
    </p>
  );
}

/** The range that is being drawn up. */
export function Selection({ selection, view }: { readonly selection: readonly [number, number]; readonly view: View }) {
  const span = view.to - view.from;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 border-x border-ink bg-ink/15"
      style={{
        left: `${((Math.min(...selection) - view.from) / span) * 100}%`,
        width: `${(Math.abs(selection[1] - selection[0]) / span) * 100}%`,
      }}
    />
  );
}
