/** -60 dBFS: what lies below counts as silence. Common practice, no source. */
export const SILENCE = 1e-3;

/** Finds the first and the last frame of which some channel is louder than a threshold, block by block. */
export class SoundFinder {
  private readonly threshold: number;
  /** Frames that were looked at. */
  frames = 0;
  /** Infinity and -1 if nothing is louder. */
  first = Number.POSITIVE_INFINITY;
  last = -1;

  constructor(threshold: number = SILENCE) {
    this.threshold = threshold;
  }

  add(channels: readonly Float32Array[]): void {
    for (const samples of channels) {
      let first = 0;
      while (first < samples.length && Math.abs(samples[first]) <= this.threshold) first++;
      if (first === samples.length) continue;
      let last = samples.length - 1;
      while (Math.abs(samples[last]) <= this.threshold) last--;
      this.first = Math.min(this.first, this.frames + first);
      this.last = Math.max(this.last, this.frames + last);
    }
    this.frames += channels[0]?.length ?? 0;
  }
}
