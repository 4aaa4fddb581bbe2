import { extremes, extremesTwin } from '../kernel/samples.ts';

/**
 * The waveform's peak pyramid: for each channel and each run of `step` frames the lowest and the highest sample.
 * `values` holds, bin by bin, channel by channel, the pair (min, max); bins x channels x 2 numbers.
 */
export interface Peaks {
  readonly step: number;
  readonly channelCount: number;
  readonly values: Float32Array;
}

/** Frames in one bin of the finest stored level. */
export const PEAK_STEP = 256;

/** Frames in one bin of each stored level, finest first. */
export const PEAK_STEPS: readonly number[] = [PEAK_STEP, PEAK_STEP * 16, PEAK_STEP * 256];

export const binCount = (peaks: Peaks): number => peaks.values.length / (2 * peaks.channelCount);

/** Peaks of sound in memory; the last bin may cover fewer frames. */
export function peaksOf(channels: readonly Float32Array[], step: number): Peaks {
  const frames = channels[0]?.length ?? 0;
  const bins = Math.ceil(frames / step);
  const values = new Float32Array(bins * channels.length * 2);
  const whole = step % 4 === 0 ? frames - (frames % step) : 0;
  const stride = 2 * channels.length;
  channels.forEach((samples, channel) => {
    extremes(samples.subarray(0, whole), step, values, 2 * channel, stride);
    for (let from = whole; from < frames; from += step) {
      extremesTwin(samples.subarray(from, from + step), step, values, (from / step) * stride + 2 * channel, stride);
    }
  });
  return { step, channelCount: channels.length, values };
}

/** The same peaks with bins `factor` times as long. Exact: equals `peaksOf` with that step. */
export function coarser(peaks: Peaks, factor: number): Peaks {
  const { channelCount, values } = peaks;
  const bins = binCount(peaks);
  const out = new Float32Array(Math.ceil(bins / factor) * channelCount * 2);
  for (let channel = 0; channel < channelCount; channel++) {
    for (let bin = 0; bin < bins; bin++) {
      const from = (bin * channelCount + channel) * 2;
      const to = (Math.floor(bin / factor) * channelCount + channel) * 2;
      const first = bin % factor === 0;
      out[to] = first ? values[from] : Math.min(out[to], values[from]);
      out[to + 1] = first ? values[from + 1] : Math.max(out[to + 1], values[from + 1]);
    }
  }
  return { step: peaks.step * factor, channelCount, values: out };
}

/** Gathers the peaks of all stored steps block by block, for sounds that do not fit into memory. */
export class PeaksBuilder {
  private readonly channelCount: number;
  private values = new Float32Array(1 << 14);
  /** Whole bins so far, and frames of the one that is under way. */
  private bins = 0;
  private begun = 0;

  constructor(channelCount: number) {
    this.channelCount = channelCount;
  }

  /** Takes the next frames of the same channels. */
  add(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    for (let at = 0; at < count; ) {
      const bins = this.begun === 0 ? Math.floor((count - at) / PEAK_STEP) : 0;
      this.makeRoom(bins + 1);
      if (bins > 0) {
        const end = at + bins * PEAK_STEP;
        const stride = 2 * this.channelCount;
        for (let channel = 0; channel < this.channelCount; channel++) {
          const place = this.bins * stride + 2 * channel;
          extremes(channels[channel].subarray(at, end), PEAK_STEP, this.values, place, stride);
        }
        this.bins += bins;
        at = end;
        continue;
      }
      const take = Math.min(count - at, PEAK_STEP - this.begun);
      for (let channel = 0; channel < this.channelCount; channel++) this.gather(channels[channel], channel, at, take);
      at += take;
      this.begun += take;
      if (this.begun === PEAK_STEP) {
        this.bins++;
        this.begun = 0;
      }
    }
  }

  private makeRoom(more: number): void {
    const needed = (this.bins + more) * this.channelCount * 2;
    if (needed <= this.values.length) return;
    const larger = new Float32Array(Math.max(needed, this.values.length * 2));
    larger.set(this.values);
    this.values = larger;
  }

  private gather(samples: Float32Array, channel: number, from: number, count: number): void {
    const at = (this.bins * this.channelCount + channel) * 2;
    let low = this.begun > 0 ? this.values[at] : samples[from];
    let high = this.begun > 0 ? this.values[at + 1] : samples[from];
    for (let i = from; i < from + count; i++) {
      const value = samples[i];
      if (value < low) low = value;
      else if (value > high) high = value;
    }
    this.values[at] = low;
    this.values[at + 1] = high;
  }

  /** Values of every stored step, finest first. Takes the sound as ended. */
  levels(): Float32Array[] {
    const bins = this.bins + (this.begun > 0 ? 1 : 0);
    const finest: Peaks = {
      step: PEAK_STEP,
      channelCount: this.channelCount,
      values: this.values.slice(0, bins * this.channelCount * 2),
    };
    return PEAK_STEPS.map((step) => (step === PEAK_STEP ? finest : coarser(finest, step / PEAK_STEP)).values);
  }
}
