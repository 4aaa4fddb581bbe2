import type { Pcm } from '@tambur/core';
import { useCallback, useMemo, useRef } from 'react';
import { colour } from '../ui/theme.ts';
import { Canvas } from './canvas.tsx';
import { Handle, Shade } from './cut-handle.tsx';
import { drawWaveform, extentOfSamples } from './waveform.ts';

interface Props {
  readonly pcm: Pcm;
  readonly label: string;
  readonly range: { readonly start: number; readonly end: number };
  readonly onRange: (start: number, end: number) => void;
}

const nothing = () => () => undefined;

/** A sound in memory with the two ends of what is kept of it. */
export function RangeLane({ pcm, label, range, onRange }: Props) {
  const lane = useRef<HTMLDivElement>(null);
  const frames = pcm.channels[0]?.length ?? 0;
  const extent = useMemo(() => extentOfSamples(pcm.channels), [pcm]);
  const percent = (frame: number) => (frame / Math.max(1, frames)) * 100;
  const frameAt = ({ clientX }: { clientX: number }) => {
    const box = lane.current?.getBoundingClientRect();
    return box ? Math.round(Math.max(0, Math.min(1, (clientX - box.left) / box.width)) * frames) : 0;
  };
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, width, height);
      const ink = colour('ink');
      drawWaveform(context, width, height, { from: 0, to: frames }, pcm.channels.length, extent, () => ink);
    },
    [pcm, frames, extent],
  );
  return (
    <div ref={lane} className="relative h-28 touch-pan-y select-none border-y border-hairline">
      <Canvas label={label} className="absolute inset-0 size-full" draw={draw} />
      <Shade from={0} to={range.start} percent={percent} />
      <Shade from={range.end} to={frames} percent={percent} />
      {(['start', 'end'] as const).map((edge) => (
        <Handle
          key={edge}
          edge={edge}
          cut={range}
          frames={frames}
          sampleRate={pcm.sampleRate}
          left={percent(range[edge])}
          frameAt={frameAt}
          onCut={onRange}
          onGesture={nothing}
        />
      ))}
    </div>
  );
}
