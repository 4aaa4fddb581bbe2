import { PEAK_STEPS } from '@tambur/core';
import type { View } from '../sound/view.ts';

/** Bins of peaks that are fetched at most: some megabytes. */
export const MOST_BINS = 200_000;
/** Seen closer than this many frames for each pixel, samples take the place of peaks. */
export const CLOSE = 256;
/** Most frames whose samples are fetched to draw them. */
export const MOST_FRAMES = 400_000;

const COARSEST = PEAK_STEPS[PEAK_STEPS.length - 1] ?? CLOSE;

/** What a lane needs to be drawn. */
export interface LaneNeeds {
  /** Frames in each bin of the peaks of the whole sound. */
  readonly step: number;
  /** The frames whose samples are seen; null from afar. */
  readonly samples: { readonly from: number; readonly count: number } | null;
}

/**
 * Peaks from afar, samples from near.
 * @param frames of the whole sound
 * @param width of the lane in pixels
 */
export function laneNeeds(frames: number, view: View, width: number): LaneNeeds {
  const from = Math.max(0, Math.floor(view.from));
  const count = Math.min(frames, Math.ceil(view.to)) - from;
  const isClose = width > 0 && count > 0 && count / width < CLOSE && count <= MOST_FRAMES;
  return {
    step: PEAK_STEPS.find((step) => frames / step <= MOST_BINS) ?? COARSEST,
    samples: isClose ? { from, count } : null,
  };
}
