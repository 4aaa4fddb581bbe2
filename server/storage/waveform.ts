/** Bins of the waveform in small. */
const BINS = 96;

/** dB below full scale from which on nothing is heard any more. */
const SILENT = 127;

const bytesOf = (bytes: Int8Array): string => Buffer.from(bytes.buffer).toString('base64');

/**
 * The waveform in small, from peaks and powers of one step (see core's Peaks and Powers): for each bin the lowest and the highest sample
 * of all channels as signed bytes in base64, 127 being full scale; after a full stop, how far the effective value of the
 * loudest channel is below full scale, in dB, 127 where nothing is heard. Earlier versions wrote no second part.
 */
export function smallWaveform(peaks: Float32Array, powers: Float32Array, channelCount: number): string {
  const stored = powers.length / channelCount;
  const bins = Math.min(BINS, stored);
  if (bins === 0) return '';
  const extremes = new Int8Array(2 * bins);
  const levels = new Int8Array(bins);
  for (let bin = 0; bin < bins; bin++) {
    const from = Math.floor((bin * stored) / bins);
    const to = Math.floor(((bin + 1) * stored) / bins);
    let [low, high, power] = [1, -1, 0];
    for (let channel = 0; channel < channelCount; channel++) {
      let sum = 0;
      for (let i = from * channelCount + channel; i < to * channelCount; i += channelCount) {
        low = Math.min(low, peaks[2 * i] ?? 0);
        high = Math.max(high, peaks[2 * i + 1] ?? 0);
        sum += powers[i] ?? 0;
      }
      power = Math.max(power, sum / (to - from));
    }
    extremes[2 * bin] = Math.max(-127, Math.round(low * 127));
    extremes[2 * bin + 1] = Math.min(127, Math.round(high * 127));
    levels[bin] = Math.min(SILENT, Math.max(0, Math.round(-10 * Math.log10(power))));
  }
  return `${bytesOf(extremes)}.${bytesOf(levels)}`;
}
