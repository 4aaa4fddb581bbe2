import type { Pcm } from '@tambur/core';
import { useCallback, useMemo } from 'react';
import { Canvas } from '../sound/canvas.tsx';
import { drawWaveform, extentOfSamples } from '../sound/waveform.ts';
import { colour } from '../ui/theme.ts';

/** The wave of a sound that is in memory. */
export function PcmPicture({ pcm, className, label }: { pcm: Pcm | null; className: string; label: string }) {
  const extent = useMemo(() => (pcm ? extentOfSamples(pcm.channels) : null), [pcm]);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.clearRect(0, 0, width, height);
      if (!pcm || !extent) return;
      const ink = colour('ink');
      drawWaveform(
        context,
        width,
        height,
        { from: 0, to: pcm.channels[0]?.length ?? 1 },
        pcm.channels.length,
        extent,
        () => ink,
      );
    },
    [pcm, extent],
  );
  return <Canvas label={label} className={className} draw={draw} />;
}
