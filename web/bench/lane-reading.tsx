import { formatCount, formatLevel, formatSeconds } from '@tambur/core';
import type { ReactNode } from 'react';
import type { Extent } from '../sound/waveform.ts';

/** What is under the pointer: the time, the frame, and how high the sound goes there. */
export function pointedWords(
  frame: number,
  sampleRate: number,
  channels: number,
  perPixel: number,
  extent: Extent,
): string {
  const levels = Array.from({ length: channels }, (_, channel) => {
    const [low, high] = extent(channel, frame, frame + Math.max(1, perPixel));
    return formatLevel(Math.max(-low, high, 0));
  });
  return [formatSeconds(frame / sampleRate), formatCount(frame), ...new Set(levels)].join(' · ');
}

/** Figures over a lane, where the pointer is not. */
export function Reading({ isLeft, children }: { readonly isLeft: boolean; readonly children: ReactNode }) {
  if (!children) return null;
  return (
    <p
      data-testid="lane-reading"
      className={`figure pointer-events-none absolute bottom-0 z-20 bg-paper/90 px-1.5 text-xs ${isLeft ? 'left-4' : 'right-4'}`}
    >
      {children}
    </p>
  );
}
