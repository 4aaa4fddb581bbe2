import { SILENCE } from '@tambur/core';
import type { View } from './view.ts';
import type { Extent } from './waveform.ts';

/** Frames of a sound; the last does not belong to it. */
export interface Range {
  readonly from: number;
  readonly to: number;
}

/** What is to be marked in a lane. */
export interface Marks {
  /** At full scale, or beyond. */
  readonly flattened: readonly Range[];
  readonly silences: readonly Range[];
}

/** The greatest value of 16 bits: what reaches it may have been cut off. */
const FULL = 1 - 1 / 32_768;
/** Fewer pixels of silence are not worth a mark. */
const LEAST_SILENCE = 5;

/** What is flattened and what is silent in a view, found from what is drawn of it: exact to a pixel. */
export function marksOf(extent: Extent, channels: number, { from, to }: View, width: number): Marks {
  const perPixel = (to - from) / width;
  const peaks = Array.from({ length: Math.floor(width) }, (_, x) => {
    const start = from + x * perPixel;
    let peak = 0;
    for (let channel = 0; channel < channels; channel++) {
      const [low, high] = extent(channel, start, start + perPixel);
      peak = Math.max(peak, -low, high);
    }
    return peak;
  });
  const runs = (isIn: (peak: number) => boolean, least: number): Range[] => {
    const found: Range[] = [];
    let begin = 0;
    for (let x = 0; x <= peaks.length; x++) {
      if (x < peaks.length && isIn(peaks[x] ?? 0)) continue;
      if (x - begin >= least) found.push({ from: from + begin * perPixel, to: from + x * perPixel });
      begin = x + 1;
    }
    return found;
  };
  return { flattened: runs((peak) => peak >= FULL, 1), silences: runs((peak) => peak < SILENCE, LEAST_SILENCE) };
}

/** Marks along the edges of a lane: what is flattened above, what is silent below. */
export function drawMarks(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: View,
  { flattened, silences }: Marks,
  tones: { readonly flattened: string; readonly silence: string },
): void {
  const x = (frame: number) => ((frame - view.from) / (view.to - view.from)) * width;
  context.fillStyle = tones.flattened;
  for (const { from, to } of flattened) context.fillRect(x(from), 0, Math.max(2, x(to) - x(from)), 4);
  context.fillStyle = tones.silence;
  for (const { from, to } of silences) context.fillRect(x(from), height - 3, x(to) - x(from), 3);
}

/** Lines nearer to each other than this, in pixels, would be a surface. */
const LEAST_APART = 6;

/** A line at every step from one frame to another, such as the bars of a cut. */
export function drawGrid(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: View,
  { from, to, step }: Range & { readonly step: number },
  tone: string,
): void {
  const perPixel = (view.to - view.from) / width;
  if (step / perPixel < LEAST_APART) return;
  context.fillStyle = tone;
  const first = Math.max(0, Math.ceil((view.from - from) / step));
  for (let frame = from + first * step; frame <= Math.min(to, view.to); frame += step) {
    context.fillRect(Math.round((frame - view.from) / perPixel), 0, 1, height);
  }
}
