import { BANDS_RATE, closeMatch, type Listened, powerBelow, roughMatch, shiftedBands } from '../dsp/index.ts';
import { atPace } from './pace.ts';

/** A device plays at a quarter of the right rate at least, and at four times it at most. */
const OCTAVES = 2;
/** Rates that are tried first to each side, 2.5 % apart; and about each of the likeliest, up to 3 % away, half a per cent apart. */
const COARSE = 56;
const FINE = 6;
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
 * @returns Hz, the likeliest first, the right rate left out; true to a per cent
 */
export function likelyRates(samples: Float32Array, sampleRate: number, recording: Listened): readonly number[] {
  const octaves = Array.from({ length: 2 * OCTAVES + 1 }, (_, i) => {
    const near = sampleRate * 2 ** (i - OCTAVES);
    const by = Math.max(1, Math.floor(near / BANDS_RATE));
    const beginning = samples.subarray(0, Math.round(ENOUGH * near));
    return { near, power: powerBelow(atPace(thinned(beginning, by), (BANDS_RATE * by) / near)) };
  });
  /** The sound as it is played at a rate, and how much faster that is than its frames say. */
  const playedAt = (rate: number) => {
    const nearest = Math.max(0, Math.min(2 * OCTAVES, Math.round(Math.log2(rate / sampleRate)) + OCTAVES));
    const { near, power } = octaves[nearest];
    return { levels: shiftedBands(power, rate / near), stretch: rate / near };
  };
  const rates = Array.from({ length: 2 * COARSE + 1 }, (_, i) => sampleRate * 2 ** ((OCTAVES * (i - COARSE)) / COARSE));
  const scores = rates.map((rate) => {
    const { levels, stretch } = playedAt(rate);
    return roughMatch(levels, recording, stretch);
  });
  const isPeak = (i: number) => scores[i] >= (scores[i - 1] ?? -1) && scores[i] >= (scores[i + 1] ?? -1);
  const peaks = [...scores.keys()].filter(isPeak).sort((a, b) => scores[b] - scores[a]);
  const closer = peaks.slice(0, MOST).map((peak) => {
    const near = Array.from({ length: 2 * FINE + 1 }, (_, i) => rates[peak] * (1 + (0.03 * (i - FINE)) / FINE));
    const found = near.map((rate) => {
      const { levels, stretch } = playedAt(rate);
      return { rate, score: closeMatch(levels, recording, stretch) };
    });
    return found.reduce((best, one) => (one.score > best.score ? one : best));
  });
  return closer
    .sort((a, b) => b.score - a.score)
    .map(({ rate }) => rate)
    .filter((rate) => Math.abs(Math.log2(rate / sampleRate)) > RIGHT);
}
