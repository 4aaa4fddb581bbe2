import { formatSeconds, nearestZeroCrossing } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { Maximize2, Scissors, ZoomIn, ZoomOut } from 'lucide-react';
import { type Dispatch, type SetStateAction, useCallback, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { Canvas } from '../sound/canvas.tsx';
import { type Cut, withEdge } from '../sound/cut.ts';
import { Handle, Shade } from '../sound/cut-handle.tsx';
import { marksOf } from '../sound/marks.ts';
import type { LanePlayer } from '../sound/player.ts';
import { Ruler } from '../sound/ruler.tsx';
import { soundOfSource, sourceReader } from '../sound/samples.ts';
import { type Grid, snapped } from '../sound/snap.ts';
import { useSize } from '../sound/use-size.ts';
import type { View } from '../sound/view.ts';
import { Button } from '../ui/button.tsx';
import { withKey } from './keys.ts';
import { pointedWords, Reading } from './lane-reading.tsx';
import { looks } from './looks.ts';
import { Overview } from './overview.tsx';
import { Selection } from './result-lane.tsx';
import { drawSource } from './source-drawing.ts';
import { useLaneData } from './use-lane-data.ts';
import { useLaneView, useViewKeys } from './use-lane-view.ts';

interface Props {
  readonly source: SourceView;
  readonly view: View;
  readonly setView: Dispatch<SetStateAction<View>>;
  readonly cut: Cut;
  readonly player: LanePlayer;
  /** How long the cut is, and what becomes of it. */
  readonly cutWords: string;
  /** Of the device, in frames of the source; null if it has none. */
  readonly units: Pick<Grid, 'block' | 'bar'>;
  readonly onCut: (start: number, end: number) => void;
  /** Called when a drag begins; what it gives back is called when it ends. */
  readonly onGesture: () => () => void;
  /** True if a station is open below: the lane is as high as it was made. */
  readonly isLow: boolean;
}

/** So near an edge of silence draws. */
const SNAP_PIXELS = 12;
/** Frames on either side in which a zero crossing is looked for. */
const SEARCH = 2048;

/** The source's waveform with the handles of the cut. */
export function SourceLane({ source, view, setView, cut, player, cutWords, units, onCut, onGesture, isLow }: Props) {
  const { frames, sampleRate, channels } = source.facts;
  const lane = useRef<HTMLDivElement>(null);
  const { width } = useSize(lane);
  const onSeek = (frame: number) => player.seek(frame);
  const { selection, frameAt, handlers } = useLaneView(lane, { view, setView, frames, onSeek });
  const viewKeys = useViewKeys({ view, setView, frames, cut });
  const snap = useStore(looks, (state) => state.snap);
  const { extent, strength, whole, wholeStrength, samples, error } = useLaneData(soundOfSource(source), view, width);
  const [pointed, setPointed] = useState<number | null>(null);
  /** A handle has the focus; and it is being dragged. */
  const [isHeld, setHeld] = useState(false);
  const [isDragged, setDragged] = useState(false);
  const beginDrag = () => {
    const end = onGesture();
    setDragged(true);
    return () => {
      setDragged(false);
      end();
    };
  };
  const span = view.to - view.from;
  const marks = useMemo(
    () => (extent && width > 0 ? marksOf(extent, channels, view, width) : { flattened: [], silences: [] }),
    [extent, channels, view, width],
  );
  const snapTo = (edge: keyof Cut, frame: number) =>
    snapped(snap, edge, frame, cut, {
      ...units,
      silences: marks.silences,
      reach: (SNAP_PIXELS / Math.max(1, width)) * span,
    });
  /** Where it is let go of, an end goes to the zero crossing that is next to it, if that is wished. */
  const release = async (edge: keyof Cut) => {
    if (snap !== 'zero') return;
    const from = Math.max(0, cut[edge] - SEARCH);
    const found = await sourceReader(source).read(from, Math.min(frames - from, 2 * SEARCH));
    const frame = nearestZeroCrossing(found, cut[edge] - from);
    if (frame === null) return;
    const { start, end } = withEdge(cut, edge, from + frame);
    onCut(start, end);
  };

  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) =>
      drawSource(context, w, h, { channels, cut, view, extent, strength, samples, marks, bar: units.bar }),
    [units.bar, marks, extent, strength, samples, view, channels, cut],
  );

  const percent = (frame: number) => ((frame - view.from) / span) * 100;
  const shown = (frame: number) => frame >= view.from && frame <= view.to;

  return (
    <div>
      <div
        ref={lane}
        className={`relative h-[clamp(5rem,12dvh,12rem)] touch-pan-y select-none border-y border-hairline wide:h-[26dvh] ${isLow ? 'lg:max-wide:h-(--lane)' : 'lg:max-wide:h-[20dvh]'}`}
        {...handlers}
        onPointerMove={(event) => {
          setPointed(frameAt(event));
          handlers.onPointerMove(event);
        }}
        onPointerLeave={() => setPointed(null)}
      >
        <Canvas
          label={`Waveform of ${source.name}, ${formatSeconds(frames / sampleRate)}; the cut goes from ${formatSeconds(cut.start / sampleRate)} to ${formatSeconds(cut.end / sampleRate)}`}
          className="absolute inset-0 size-full"
          draw={draw}
        />
        <Shade from={view.from} to={cut.start} percent={percent} />
        <Shade from={cut.end} to={view.to} percent={percent} />
        {selection && <Selection selection={selection} view={view} />}
        <Playhead player={player} percent={percent} shown={shown} />
        {(['start', 'end'] as const).map(
          (edge) =>
            shown(cut[edge]) && (
              <Handle
                key={edge}
                edge={edge}
                cut={cut}
                frames={frames}
                sampleRate={sampleRate}
                left={percent(cut[edge])}
                frameAt={frameAt}
                onSnap={snapTo}
                onRelease={release}
                onCut={onCut}
                onGesture={beginDrag}
                onHeld={setHeld}
              />
            ),
        )}
        <Reading isLeft={pointed !== null && percent(pointed) > 55}>
          {isDragged || (isHeld && pointed === null)
            ? cutWords
            : pointed !== null &&
              extent &&
              pointedWords(pointed, sampleRate, channels, span / Math.max(1, width), extent)}
        </Reading>
        {error && (
          <p role="alert" className="absolute inset-x-2 top-2 bg-brick-tint p-1 text-sm">
            {error.message}
          </p>
        )}
      </div>
      <div
        className="cursor-col-resize touch-none"
        title="Drag to move the playhead"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          onSeek(Math.min(frames - 1, frameAt(event)));
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) onSeek(Math.min(frames - 1, frameAt(event)));
        }}
      >
        <Ruler view={view} sampleRate={sampleRate} frames={frames} />
      </div>
      <div className="flex items-center gap-1 text-sm">
        <Overview
          extent={whole}
          strength={wholeStrength}
          frames={frames}
          channels={channels}
          cut={cut}
          view={view}
          onView={setView}
        />
        <ViewButtons {...viewKeys} />
      </div>
    </div>
  );
}

/** What shows more or less of the source; each is a key too. */
function ViewButtons({ zoomIn, zoomOut, showCut, showAll }: ReturnType<typeof useViewKeys>) {
  return (
    <>
      <Button kind="quiet" aria-label="Zoom in" title="Zoom in (+, or the wheel)" onClick={zoomIn}>
        <ZoomIn className="size-4" aria-hidden />
      </Button>
      <Button kind="quiet" aria-label="Zoom out" title="Zoom out (−, or the wheel)" onClick={zoomOut}>
        <ZoomOut className="size-4" aria-hidden />
      </Button>
      <Button kind="quiet" aria-label="Show the cut" title={withKey('Show the cut', 'showCut')} onClick={showCut}>
        <Scissors className="size-3.5" aria-hidden /> <span className="max-sm:hidden">Show the cut</span>
      </Button>
      <Button kind="quiet" aria-label="Show all" title={withKey('Show the whole source', 'showAll')} onClick={showAll}>
        <Maximize2 className="size-3.5" aria-hidden /> <span className="max-sm:hidden">Show all</span>
      </Button>
    </>
  );
}

function Playhead({
  player,
  percent,
  shown,
}: {
  player: LanePlayer;
  percent: (frame: number) => number;
  shown: (frame: number) => boolean;
}) {
  const position = useStore(player.store, (state) => state.position);
  if (!shown(position)) return null;
  return (
    <div className="pointer-events-none absolute inset-y-0 w-px bg-brick" style={{ left: `${percent(position)}%` }} />
  );
}
