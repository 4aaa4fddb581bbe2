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
