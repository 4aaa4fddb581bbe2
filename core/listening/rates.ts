import {
  BANDS_RATE,
  type BandRecording,
  bandLevels,
  findInBands,
  powerBelow,
  resample,
  roughMatch,
  shiftedBands,
} from '../dsp/index.ts';
import { atPace } from './pace.ts';

/** A device plays at a quarter of the right rate at least, and at four times it at most. */
const OCTAVES = 2;
/** Rates that are tried to each side, 2.5 % apart: from the likeliest of them the right one is found in some looks. */
const COARSE = 56;
const LOOKS = 4;
/** A look that finds the sound as near as that to where it was thought is the last. */
const NEAR = 0.008;
/** Clocks that are off by less play at the right rate. */
const RIGHT = Math.log2(1.015);
/** Hz between which rates are looked for: beyond, no device plays. */
const [LOWEST, HIGHEST] = [100, 1_000_000];
/** Seconds at the fastest rate: what is shorter has no course of its own. */
const SHORTEST = 0.02;
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
export function likelyRates(samples: Float32Array, sampleRate: number, recording: BandRecording): readonly number[] {
  if (samples.length < SHORTEST * sampleRate * 2 ** OCTAVES) return [];
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
  const rates = Array.from(
    { length: 2 * COARSE + 1 },
    (_, i) => sampleRate * 2 ** ((OCTAVES * (i - COARSE)) / COARSE),
  ).filter((rate) => rate >= LOWEST && rate <= HIGHEST);
  const scores = rates.map((rate) => {
    const { levels, stretch } = playedAt(rate);
    return roughMatch(levels, recording, stretch);
  });
  const isPeak = (i: number) => scores[i] >= (scores[i - 1] ?? -1) && scores[i] >= (scores[i + 1] ?? -1);
  const peaks = [...scores.keys()].filter(isPeak).sort((a, b) => scores[b] - scores[a]);
  const found: number[] = [];
  for (const peak of peaks.slice(0, MOST)) {
    const rate = climbed(samples, rates[peak], recording);
    const isKnown = found.some((other) => Math.abs(Math.log2(rate / other)) < RIGHT);
    if (!isKnown && Math.abs(Math.log2(rate / sampleRate)) > RIGHT) found.push(rate);
  }
  return found;
}

/** The rate near another one at which the sound is most like the recording: each look tells which way to go on. */
function climbed(samples: Float32Array, from: number, recording: BandRecording): number {
  let rate = from;
  for (let look = 0; look < LOOKS; look++) {
    const whole = handy(rate);
    const played = resample(samples.subarray(0, Math.round(ENOUGH * rate)), whole, BANDS_RATE);
    const { stretch } = findInBands(bandLevels(played), recording);
    rate = handy(whole * stretch);
    if (Math.abs(stretch - 1) < NEAR) break;
  }
  return rate;
}

/** A rate within a quarter of a per cent that has a large divisor in common with `BANDS_RATE`: it is quickly resampled. */
function handy(rate: number): number {
  const step = Math.min(160, 2 ** Math.floor(Math.log2(rate / 800)) * 5);
  return Math.round(rate / step) * step;
}
