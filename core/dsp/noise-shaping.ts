import { steady } from '../numbers/index.ts';

/**
 * Where the ear hears the error of rounding less: the error of earlier samples, weighed by these coefficients, is taken
 * off the next one, which makes the noise 1 - sum c_k z^-k as loud by frequency.
 */

/**
 * For 44 100 Hz and rates near it: Lipshitz, Vanderkooy and Wannamaker, "Minimally Audible Noise Shaping", Journal of the
 * Audio Engineering Society 39 (1991), five coefficients (from memory).
 */
const LIPSHITZ: readonly number[] = [2.033, -2.165, 1.959, -1.59, 0.6149];
const LIPSHITZ_RATES = { least: 40_000, most: 50_000 };

/** What lies higher above the lowest threshold than this, in dB, is not heard at all and counts alike. */
const DEAFEST = 40;

/**
 * How well the ear hears a quiet noise at a frequency, as a power: the inverse of the threshold in quiet by the formula of
 * E. Terhardt, "Calculating Virtual Pitch", Hearing Research 1 (1979): 3.64 f^-0.8 - 6.5 exp(-0.6 (f - 3.3)^2) + f^4 / 1000
 * dB, f in kHz (from memory).
 */
export function hearing(hz: number): number {
  const f = Math.max(20, hz) / 1000;
  const threshold = 3.64 * f ** -0.8 - 6.5 * Math.exp(-0.6 * (f - 3.3) ** 2) + f ** 4 / 1000;
  return 10 ** (-Math.min(threshold, DEAFEST) / 10);
}

const ORDER = 5;
const BINS = 1024;

/**
 * Coefficients that make the noise least loud to the ear. At other rates than those of the published ones there is
 * nothing to look up: the best filter of an order is the linear predictor of a noise with the spectrum of the weighting
 * (Gerzon and Craven, "Optimal Noise Shaping and Dither of Digital Signals", AES preprint 2822, 1989; from memory),
 * found by the recursion of Levinson and Durbin.
 */
function predictor(sampleRate: number): number[] {
  const correlation = Array.from({ length: ORDER + 1 }, (_, lag) => {
    let sum = 0;
    for (let bin = 0; bin < BINS; bin++) {
      const part = (bin + 0.5) / BINS / 2;
      sum += hearing(part * sampleRate) * Math.cos(2 * Math.PI * part * lag);
    }
    return sum / BINS;
  });
  const found: number[] = [];
  let error = correlation[0];
  for (let order = 0; order < ORDER; order++) {
    let reflection = correlation[order + 1];
    for (let k = 0; k < order; k++) reflection -= found[k] * correlation[order - k];
    reflection /= error;
    const before = [...found];
    for (let k = 0; k < order; k++) found[k] = before[k] - reflection * before[order - 1 - k];
    found.push(reflection);
    error *= 1 - reflection * reflection;
  }
  return found.map((value) => steady(value));
}

/** Coefficients of the error feedback that suits a rate in Hz, the one for the newest error first. */
export const noiseShaping = (sampleRate: number): readonly number[] =>
  sampleRate >= LIPSHITZ_RATES.least && sampleRate <= LIPSHITZ_RATES.most ? LIPSHITZ : predictor(sampleRate);
