/** Bins of the waveform in small. */
const BINS = 96;

/**
 * The waveform in small, from peaks of any step (see core's Peaks): base64 of signed bytes, for each bin the lowest and the highest
 * sample of all channels, 127 being full scale.
 */
export function smallWaveform(values: Float32Array, channelCount: number): string {
  const stored = values.length / (2 * channelCount);
  const bins = Math.min(BINS, stored);
  const out = new Int8Array(2 * bins);
  for (let bin = 0; bin < bins; bin++) {
    let low = 1;
    let high = -1;
    const from = Math.floor((bin * stored) / bins) * channelCount;
    const to = Math.floor(((bin + 1) * stored) / bins) * channelCount;
    for (let i = from; i < to; i++) {
      low = Math.min(low, values[2 * i] ?? 0);
      high = Math.max(high, values[2 * i + 1] ?? 0);
    }
    out[2 * bin] = Math.max(-127, Math.round(low * 127));
    out[2 * bin + 1] = Math.min(127, Math.round(high * 127));
  }
  return Buffer.from(out.buffer).toString('base64');
}
