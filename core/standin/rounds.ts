import type { Pcm } from '../audio/index.ts';
import { resample } from '../dsp/index.ts';
import type { Hear } from './trait.ts';

/**
 * What is heard of a sound that follows upon itself without a gap: in its first round, and in each one after it. A loudspeaker is in motion
 * by then, and so is the change of rate: neither starts again.
 * @param round the samples as they go to the converter
 * @param hear what becomes of them, from the first one on
 * @param sampleRate Hz, whole, of what is given back
 */
export function roundsOf(round: Pcm, hear: Hear, sampleRate: number): readonly [Pcm, Pcm] {
  // The third one only lets the second go on where it ends.
  const passes = [hear(round.channels), hear(round.channels), hear(round.channels)];
  // A rate that a note has made is not whole, which the resampler wants.
  const from = Math.round(round.sampleRate);
  const framesOf = (count: number) => passes.slice(0, count).reduce((sum, [first]) => sum + (first?.length ?? 0), 0);
  const ends = [1, 2].map((count) => Math.round((framesOf(count) * sampleRate) / from));
  const whole = round.channels.map((_, channel) => {
    const joined = new Float32Array(framesOf(passes.length));
    for (const [i, pass] of passes.entries()) joined.set(pass[channel] ?? [], framesOf(i));
    return resample(joined, from, sampleRate);
  });
  const cut = (start?: number, end?: number): Pcm => ({
    sampleRate,
    channels: whole.map((samples) => samples.slice(start, end)),
  });
  return [cut(0, ends[0]), cut(ends[0], ends[1])];
}
