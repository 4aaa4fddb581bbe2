import { BANDS_RATE, type Listened, powerBelow, roughMatch, shiftedBands } from '../dsp/index.ts';
import { atPace } from './pace.ts';

/** A device plays at a quarter of the right rate at least, and at four times it at most. */
const OCTAVES = 2;
/** Rates that are tried within half an octave, 2 % apart: between them a clock that is off by as much is still found. */
const STEPS = 17;
/** Clocks that are off by less play at the right rate. */
const RIGHT = Math.log2(1.015);
/** Seconds of the sound that are enough to tell rates apart. */
const ENOUGH = 6;
/** Rates that are worth a closer look. */
const MOST = 4;

/** Means of so many samples each: a coarse low-pass filter before some are left out. */
function thinned(samples: Float32Array, by: number): Float32Array {
  if (by <= 1) return samples;
  const out = new Float32Array(Math.floor(samples.length / by));
  for (let i = 0; i < out.length; i++) {
    for (let k = 0; k < by; k++) out[i] += samples[i * by + k] / by;
  }
  return out;
}

/**
 * Rates at which a sound may have been played, found and not looked up: those at which its bands are most like a recording's.
 * @param samples one channel, at `sampleRate`
 * @returns Hz, the likeliest first, the right rate left out; true to 2 %
 */
export function likelyRates(samples: Float32Array, sampleRate: number, recording: Listened): readonly number[] {
  const tried: { readonly rate: number; readonly score: number }[] = [];
  for (let octave = -OCTAVES; octave <= OCTAVES; octave++) {
    const near = sampleRate * 2 ** octave;
    const by = Math.max(1, Math.floor(near / BANDS_RATE));
    const beginning = samples.subarray(0, Math.round(ENOUGH * near));
    const power = powerBelow(atPace(thinned(beginning, by), (BANDS_RATE * by) / near));
    for (let step = -STEPS; step < STEPS; step++) {
      const times = 2 ** (step / (2 * STEPS));
      const rate = near * times;
      if (Math.abs(Math.log2(rate / sampleRate)) > OCTAVES) continue;
      tried.push({ rate, score: roughMatch(shiftedBands(power, times), recording, times) });
    }
  }
  const isPeak = (i: number) =>
    tried[i].score >= (tried[i - 1]?.score ?? -1) && tried[i].score >= (tried[i + 1]?.score ?? -1);
  return tried
    .filter(({ rate }, i) => isPeak(i) && Math.abs(Math.log2(rate / sampleRate)) > RIGHT)
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST)
    .map(({ rate }) => rate);
}
