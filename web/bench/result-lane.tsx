import { formatSeconds, frameCount } from '@tambur/core';
import { useCallback } from 'react';
import { useStore } from 'zustand';
import { Canvas } from '../sound/canvas.tsx';
import type { Player } from '../sound/player.ts';
import { drawSteps, drawWaveform, extentOfSamples } from '../sound/waveform.ts';
import { colour } from '../ui/theme.ts';
import type { PreviewState } from './use-preview.ts';

interface Props {
  readonly preview: PreviewState;
  readonly player: Player;
  readonly cut: { readonly start: number; readonly end: number };
  readonly sourceRate: number;
}

/** Drawn as steps where at least this many pixels fall on a frame. */
const STEPS_FROM = 2;

/** The result as it will play, drawn from the finished bytes. */
export function ResultLane({ preview, player, cut, sourceRate }: Props) {
  const { refused } = preview;
  const pcm = preview.made?.pcm ?? null;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, width, height);
      if (!pcm) return;
      const frames = frameCount(pcm);
      const tone = colour('pine');
      context.fillStyle = colour('hairline');
      pcm.channels.forEach((_, channel) => {
        context.fillRect(0, (height / pcm.channels.length) * (channel + 0.5), width, 1);
      });
      const view = { from: 0, to: frames };
      if (width / frames >= STEPS_FROM) drawSteps(context, width, height, view, pcm.channels, tone);
      else drawWaveform(context, width, height, view, pcm.channels.length, extentOfSamples(pcm.channels), () => tone);
    },
    [pcm],
  );
  const position = useStore(player.store, (state) => state.position);
  const part = pcm ? (position - cut.start) / sourceRate / (frameCount(pcm) / pcm.sampleRate) : -1;

  return (
    <div
      className="relative h-[clamp(4.5rem,10dvh,10rem)] wide:h-[22dvh] border-y border-hairline"
      data-testid="result-lane"
      data-current={preview.isCurrent}
    >
      <Canvas
        label={pcm ? `Waveform of the result, ${formatSeconds(frameCount(pcm) / pcm.sampleRate)}` : 'No result yet'}
        className="absolute inset-0 size-full"
        draw={draw}
      />
      {part >= 0 && part <= 1 && (
        <div className="pointer-events-none absolute inset-y-0 w-px bg-brick" style={{ left: `${part * 100}%` }} />
      )}
      {refused ? (
        <p role="alert" className="absolute inset-0 flex items-center justify-center bg-brick-tint px-6 text-center">
          {refused}
        </p>
      ) : (
        !pcm && (
          <p role="status" className="absolute inset-0 flex items-center justify-center text-sm text-graphite">
            making the result …
          </p>
        )
      )}
    </div>
  );
}
