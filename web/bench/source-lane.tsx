import { formatSeconds } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { Maximize2, Scissors, ZoomIn, ZoomOut } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { Canvas } from '../sound/canvas.tsx';
import { Handle, Shade } from '../sound/cut-handle.tsx';
import type { Player } from '../sound/player.ts';
import { drawWaveform, type View } from '../sound/waveform.ts';
import { Button } from '../ui/button.tsx';
import { colour } from '../ui/theme.ts';
import { useKey } from '../ui/use-key.ts';
import { useLaneData } from './use-lane-data.ts';

interface Cut {
  readonly start: number;
  readonly end: number;
}

interface Props {
  readonly source: SourceView;
  readonly cut: Cut;
  readonly player: Player;
  readonly onCut: (start: number, end: number) => void;
  /** Called when a drag begins; what it gives back is called when it ends. */
  readonly onGesture: () => () => void;
}

/** Closest view, in frames. */
const CLOSEST = 64;
const ZOOM = 2;

/** The source's waveform with the handles of the cut. */
export function SourceLane({ source, cut, player, onCut, onGesture }: Props) {
  const { frames, sampleRate, channels } = source.facts;
  const lane = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [view, setView] = useState<View>({ from: 0, to: frames });
  const { extent, error } = useLaneData(source, view, width);
  const span = view.to - view.from;

  useEffect(() => {
    if (!lane.current) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    observer.observe(lane.current);
    return () => observer.disconnect();
  }, []);

  const zoom = useCallback(
    (factor: number, around?: number) =>
      setView(({ from, to }) => {
        const length = Math.min(frames, Math.max(CLOSEST, (to - from) * factor));
        const centre = around ?? (from + to) / 2;
        const part = (centre - from) / (to - from);
        const start = Math.max(0, Math.min(frames - length, centre - part * length));
        return { from: start, to: start + length };
      }),
    [frames],
  );
  const showCut = () => {
    const margin = (cut.end - cut.start) * 0.1;
    const length = Math.max(CLOSEST, cut.end - cut.start + 2 * margin);
    const from = Math.max(0, Math.min(frames - length, cut.start - margin));
    setView({ from, to: Math.min(frames, from + length) });
  };
  const showAll = () => setView({ from: 0, to: frames });
  useKey('equal, shift+equal, add', () => zoom(1 / ZOOM, cut.start));
  useKey('minus, subtract', () => zoom(ZOOM));
  useKey('0', showAll);
  useKey('c', showCut);

  // The wheel zooms with Ctrl and moves sideways with Shift; alone it scrolls the page, as everywhere.
  useEffect(() => {
    const element = lane.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (!event.ctrlKey && !sideways) return;
      event.preventDefault();
      const place = (event.clientX - element.getBoundingClientRect().left) / element.clientWidth;
      if (event.ctrlKey) zoom(event.deltaY > 0 ? 1.25 : 0.8, view.from + place * (view.to - view.from));
      else {
        const by = Math.max(
          -view.from,
          Math.min(frames - view.to, (sideways / element.clientWidth) * (view.to - view.from)),
        );
        setView({ from: view.from + by, to: view.to + by });
      }
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [zoom, view, frames]);

  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, w, h);
      context.fillStyle = colour('hairline');
      for (let channel = 0; channel < channels; channel++) context.fillRect(0, (h / channels) * (channel + 0.5), w, 1);
      if (!extent) return;
      const [inside, outside] = [colour('ink'), colour('rule')];
      drawWaveform(context, w, h, view, channels, extent, (frame) =>
        frame >= cut.start && frame < cut.end ? inside : outside,
      );
    },
    [extent, view, channels, cut.start, cut.end],
  );

  const frameAt = (event: { clientX: number }) => {
    const box = lane.current?.getBoundingClientRect();
    if (!box) return 0;
    const place = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    return Math.round(view.from + place * span);
  };
  const percent = (frame: number) => ((frame - view.from) / span) * 100;
  const shown = (frame: number) => frame >= view.from && frame <= view.to;

  return (
    <div>
      <div
        ref={lane}
        className="relative h-[clamp(5rem,12dvh,12rem)] wide:h-[26dvh] touch-pan-y select-none border-y border-hairline"
        onPointerDown={(event) => {
          if (event.target instanceof HTMLElement && event.target.closest('[role=slider]')) return;
          player.seek(Math.min(frames - 1, frameAt(event)));
        }}
      >
        <Canvas
          label={`Waveform of ${source.name}, ${formatSeconds(frames / sampleRate)}; the cut goes from ${formatSeconds(cut.start / sampleRate)} to ${formatSeconds(cut.end / sampleRate)}`}
          className="absolute inset-0 size-full"
          draw={draw}
        />
        <Shade from={view.from} to={cut.start} percent={percent} />
        <Shade from={cut.end} to={view.to} percent={percent} />
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
                onCut={onCut}
                onGesture={onGesture}
              />
            ),
        )}
        {error && (
          <p role="alert" className="absolute inset-x-2 top-2 bg-brick-tint p-1 text-sm">
            {error.message}
          </p>
        )}
      </div>
      <div className="flex items-center gap-1 text-sm">
        <span className="figure text-xs text-graphite">{formatSeconds(view.from / sampleRate)}</span>
        <div className="mx-auto flex">
          <Button kind="quiet" aria-label="Zoom in" title="Zoom in (+)" onClick={() => zoom(1 / ZOOM, cut.start)}>
            <ZoomIn className="size-4" aria-hidden />
          </Button>
          <Button kind="quiet" aria-label="Zoom out" title="Zoom out (−)" onClick={() => zoom(ZOOM)}>
            <ZoomOut className="size-4" aria-hidden />
          </Button>
          <Button kind="quiet" title="Show the cut (C)" onClick={showCut}>
            <Scissors className="size-3.5" aria-hidden /> Show the cut
          </Button>
          <Button kind="quiet" title="Show the whole source (0)" onClick={showAll}>
            <Maximize2 className="size-3.5" aria-hidden /> Show all
          </Button>
        </div>
        <span className="figure text-xs text-graphite">{formatSeconds(view.to / sampleRate)}</span>
      </div>
    </div>
  );
}

function Playhead({
  player,
  percent,
  shown,
}: {
  player: Player;
  percent: (frame: number) => number;
  shown: (frame: number) => boolean;
}) {
  const position = useStore(player.store, (state) => state.position);
  if (!shown(position)) return null;
  return (
    <div className="pointer-events-none absolute inset-y-0 w-px bg-brick" style={{ left: `${percent(position)}%` }} />
  );
}
