import { type Peaks, type Powers, toDb } from '@tambur/core';
import type { View } from './view.ts';

/** Gives the lowest and highest value of one channel between two frames. */
export type Extent = (channel: number, from: number, to: number) => readonly [number, number];

/** From peaks: exact to the bin. `offset` is the frame at which the peaks begin. */
export function extentOfPeaks({ step, channelCount, values }: Peaks): Extent {
  const bins = values.length / (2 * channelCount);
  return (channel, from, to) => {
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const last = Math.min(bins - 1, Math.max(Math.floor(from / step), Math.ceil(to / step) - 1));
    for (let bin = Math.max(0, Math.floor(from / step)); bin <= last; bin++) {
      const at = (bin * channelCount + channel) * 2;
      low = Math.min(low, values[at] ?? 0);
      high = Math.max(high, values[at + 1] ?? 0);
    }
    return low <= high ? [low, high] : [0, 0];
  };
}

/** One number for the values from `first` up to `last`. */
type Fold = (values: Float32Array | Float64Array, first: number, last: number) => number;

const lowest: Fold = (values, first, last) => {
  let low = Number.POSITIVE_INFINITY;
  for (let i = first; i < last; i++) {
    const value = values[i] ?? 0;
    if (value < low) low = value;
  }
  return low;
};
const highest: Fold = (values, first, last) => {
  let high = Number.NEGATIVE_INFINITY;
  for (let i = first; i < last; i++) {
    const value = values[i] ?? 0;
    if (value > high) high = value;
  }
  return high;
};
const total: Fold = (values, first, last) => {
  let sum = 0;
  for (let i = first; i < last; i++) sum += values[i] ?? 0;
  return sum;
};
const squares: Fold = (values, first, last) => {
  let sum = 0;
  for (let i = first; i < last; i++) sum += (values[i] ?? 0) ** 2;
  return sum;
};

/** Frames of a bin. */
const BIN = 256;

/**
 * Folds samples: whole bins are gone through once, when they are first needed, and folded by what came of them, so that
 * a lane that is drawn again costs as much as it is wide, not as the sound is long.
 */
function binned(samples: Float32Array, fold: Fold, foldBins: Fold = fold): (first: number, last: number) => number {
  let bins: Float64Array | null = null;
  return (first, last) => {
    const [from, to] = [Math.ceil(first / BIN), Math.floor(last / BIN)];
    if (to <= from) return fold(samples, first, last);
    bins ??= Float64Array.from({ length: Math.floor(samples.length / BIN) }, (_, bin) =>
      fold(samples, bin * BIN, (bin + 1) * BIN),
    );
    const ends = [fold(samples, first, from * BIN), fold(samples, to * BIN, last)];
    return foldBins(Float64Array.of(...ends, foldBins(bins, from, to)), 0, 3);
  };
}

/** The frames of `samples`, which begin at frame `start`, between two places; at least one where there are any. */
function framesBetween(
  samples: Float32Array | undefined,
  start: number,
  from: number,
  to: number,
): readonly [number, number] {
  const first = Math.max(0, Math.floor(from) - start);
  return [first, Math.min(samples?.length ?? 0, Math.max(first + 1, Math.ceil(to) - start))];
}

/** From samples that begin at frame `start`. */
export function extentOfSamples(channels: readonly Float32Array[], start = 0): Extent {
  const folds = channels.map((samples) => ({ low: binned(samples, lowest), high: binned(samples, highest) }));
  return (channel, from, to) => {
    const [first, last] = framesBetween(channels[channel], start, from, to);
    const low = folds[channel]?.low(first, last) ?? 0;
    const high = folds[channel]?.high(first, last) ?? 0;
    return low <= high ? [low, high] : [0, 0];
  };
}

/** Gives the effective value of one channel between two frames. */
export type Strength = (channel: number, from: number, to: number) => number;

/** From powers: exact to the bin. */
export function strengthOfPowers({ step, channelCount, values }: Powers): Strength {
  const bins = values.length / channelCount;
  return (channel, from, to) => {
    const first = Math.max(0, Math.floor(from / step));
    const last = Math.min(bins - 1, Math.max(first, Math.ceil(to / step) - 1));
    let sum = 0;
    for (let bin = first; bin <= last; bin++) sum += values[bin * channelCount + channel] ?? 0;
    return last >= first ? Math.sqrt(sum / (last - first + 1)) : 0;
  };
}

/** From samples that begin at frame `start`. */
export function strengthOfSamples(channels: readonly Float32Array[], start = 0): Strength {
  const folds = channels.map((samples) => binned(samples, squares, total));
  return (channel, from, to) => {
    const [first, last] = framesBetween(channels[channel], start, from, to);
    return last > first ? Math.sqrt((folds[channel]?.(first, last) ?? 0) / (last - first)) : 0;
  };
}

/** All channels seen as one: the farthest of their extents, the strongest of their effective values. */
export function asOneBand(
  channels: number,
  extent: Extent,
  strength: Strength | null,
): { readonly extent: Extent; readonly strength: Strength | null } {
  const all = Array.from({ length: channels }, (_, channel) => channel);
  return {
    extent(_, from, to) {
      const found = all.map((channel) => extent(channel, from, to));
      return [Math.min(...found.map(([low]) => low)), Math.max(...found.map(([, high]) => high))];
    },
    strength: strength && ((_, from, to) => Math.max(...all.map((channel) => strength(channel, from, to)))),
  };
}

/** Below so many frames for each pixel the effective value follows single swings of the wave, and says nothing. */
const LEAST_FOR_RIBBON = 64;
/** dB below full scale at which the ribbon begins, and its share of a band where it is thickest. */
const RIBBON_FROM = -48;
const RIBBON_SHARE = 0.14;

/** How loud it is, as a ribbon along the foot of its band; the peaks above it are drawn in a tone of their own. */
export interface Ribbon {
  readonly strength: Strength;
  readonly peakAt: (frame: number) => string;
}

/** Draws each channel in a band of its own, one column for each pixel: its peaks and, at the foot of the band, how loud it is. */
export function drawWaveform(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  { from, to }: View,
  channelCount: number,
  extent: Extent,
  colourAt: (frame: number) => string,
  ribbon?: Ribbon | null,
): void {
  const band = height / channelCount;
  const perPixel = (to - from) / width;
  const shown = perPixel >= LEAST_FOR_RIBBON ? ribbon : null;
  for (let channel = 0; channel < channelCount; channel++) {
    const middle = band * (channel + 0.5);
    const half = band / 2 - 2;
    const y = (value: number) => middle - Math.max(-1, Math.min(1, value)) * half;
    let before: readonly [number, number] | null = null;
    for (let x = 0; x < width; x++) {
      const start = from + x * perPixel;
      const [low, high] = extent(channel, start, start + perPixel);
      // Columns touch their neighbours, so that a slow wave stays one line.
      const top = y(before ? Math.max(high, before[0]) : high);
      const bottom = y(before ? Math.min(low, before[1]) : low);
      context.fillStyle = shown ? shown.peakAt(start) : colourAt(start);
      context.fillRect(x, top, 1, Math.max(1, bottom - top));
      if (shown) {
        const thick = ribbonShare(shown.strength(channel, start, start + perPixel)) * band;
        context.fillStyle = colourAt(start);
        if (thick > 0) context.fillRect(x, band * (channel + 1) - thick, 1, thick);
      }
      before = [low, high];
    }
  }
}

/** How much of its band the ribbon of an effective value takes: even in dB, nothing for what is hardly heard. */
export const ribbonShare = (strength: number): number =>
  strength > 0 ? RIBBON_SHARE * Math.min(1, Math.max(0, 1 - toDb(strength) / RIBBON_FROM)) : 0;

/** Draws few samples as the steps that a converter makes of them. */
export function drawSteps(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  { from, to }: View,
  channels: readonly Float32Array[],
  tone: string,
): void {
  const band = height / channels.length;
  context.strokeStyle = tone;
  context.lineWidth = 1.25;
  channels.forEach((samples, channel) => {
    const middle = band * (channel + 0.5);
    const y = (value: number) => middle - Math.max(-1, Math.min(1, value)) * (band / 2 - 2);
    context.beginPath();
    for (let frame = Math.max(0, Math.floor(from)); frame < Math.min(samples.length, to); frame++) {
      const x = ((frame - from) / (to - from)) * width;
      const next = ((frame + 1 - from) / (to - from)) * width;
      const level = y(samples[frame] ?? 0);
      context.lineTo(x, level);
      context.lineTo(next, level);
    }
    context.stroke();
  });
}

/** Pixels of a dot. */
const DOT = 4;

/** Draws samples that begin at frame `from` as dots, each on a line from zero. */
export function drawSamples(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  view: View,
  { from, channels }: { readonly from: number; readonly channels: readonly Float32Array[] },
  colourAt: (frame: number) => string,
): void {
  const band = height / channels.length;
  const perFrame = width / (view.to - view.from);
  channels.forEach((samples, channel) => {
    const middle = band * (channel + 0.5);
    const half = band / 2 - DOT;
    const first = Math.max(from, Math.floor(view.from));
    for (let frame = first; frame < Math.min(from + samples.length, view.to); frame++) {
      const x = (frame - view.from) * perFrame;
      const y = middle - Math.max(-1, Math.min(1, samples[frame - from] ?? 0)) * half;
      context.fillStyle = colourAt(frame);
      context.fillRect(x - 0.5, Math.min(y, middle), 1, Math.abs(y - middle));
      context.fillRect(x - DOT / 2, y - DOT / 2, DOT, DOT);
    }
  });
}
