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
  channels.forEach((samples, channel) => {
    for (let bin = 0; bin < bins; bin++) {
      const end = Math.min(frames, (bin + 1) * step);
      let low = samples[bin * step];
      let high = low;
      for (let i = bin * step + 1; i < end; i++) {
        const value = samples[i];
        if (value < low) low = value;
        else if (value > high) high = value;
      }
      const at = (bin * channels.length + channel) * 2;
      values[at] = low;
      values[at + 1] = high;
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
      const take = Math.min(count - at, PEAK_STEP - this.begun);
      this.makeRoom();
      for (let channel = 0; channel < this.channelCount; channel++) this.gather(channels[channel], channel, at, take);
      at += take;
      this.begun += take;
      if (this.begun === PEAK_STEP) {
        this.bins++;
        this.begun = 0;
      }
    }
  }

  private makeRoom(): void {
    if ((this.bins + 1) * this.channelCount * 2 <= this.values.length) return;
    const larger = new Float32Array(this.values.length * 2 + this.channelCount * 2);
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
