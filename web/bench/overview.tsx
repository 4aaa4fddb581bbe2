import { clamp } from '@tambur/core';
import { useCallback } from 'react';
import { Canvas } from '../sound/canvas.tsx';
import { moved, type View } from '../sound/view.ts';
import { asOneBand, drawWaveform, type Extent, type Strength } from '../sound/waveform.ts';
import { colour } from '../ui/theme.ts';

interface Props {
  readonly extent: Extent | undefined;
  /** Null if that has not been measured. */
  readonly strength: Strength | null;
  readonly frames: number;
  readonly channels: number;
  readonly cut: { readonly start: number; readonly end: number };
  readonly view: View;
  readonly onView: (view: View) => void;
}

/** The whole source in small, with what the lane shows of it; a press or a drag moves that there. */
export function Overview({ extent, strength, frames, channels, cut, view, onView }: Props) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, width, height);
      if (!extent) return;
      const [inside, outside, peaks] = [colour('graphite'), colour('rule'), colour('ink-peak')];
      const isInside = (frame: number) => frame >= cut.start && frame < cut.end;
      const all = asOneBand(channels, extent, strength);
      const peakAt = (frame: number) => (isInside(frame) ? peaks : outside);
      const colourAt = (frame: number) => (isInside(frame) ? inside : outside);
      const ribbon = all.strength && { strength: all.strength, peakAt };
      drawWaveform(context, width, height, { from: 0, to: frames }, 1, all.extent, colourAt, ribbon);
    },
    [extent, strength, frames, channels, cut.start, cut.end],
  );
  const bring = ({ clientX, currentTarget }: { clientX: number; currentTarget: HTMLElement }) => {
    const { left, width } = currentTarget.getBoundingClientRect();
    const place = clamp((clientX - left) / width, 0, 1) * frames;
    onView(moved(view, place - (view.from + view.to) / 2, frames));
  };
  return (
    <div
      // The keys do the same for those who see nothing of it.
      aria-hidden
      className="relative h-5 min-w-16 flex-1 cursor-pointer touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        bring(event);
      }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && bring(event)}
    >
      <Canvas label="" className="absolute inset-0 size-full" draw={draw} />
      <div
        data-testid="overview-view"
        className="absolute inset-y-0 min-w-1 border border-pine bg-pine/15"
        style={{ left: `${(100 * view.from) / frames}%`, width: `${(100 * (view.to - view.from)) / frames}%` }}
      />
    </div>
  );
}
