import { LRUCache } from 'lru-cache';
import { steady } from '../../numbers/index.ts';

/**
 * Prediction of whole-number samples from those before them (RFC 9639, 9.2.5 and 9.2.6). What is stored is the residual:
 * the sample less its prediction.
 */

/** A linear predictor whose coefficients are whole numbers. */
export interface Predictor {
  /** That of the sample just before first; as many as the order says. */
  readonly coefficients: readonly number[];
  /** The weighted sum is divided by 2 to this power, towards minus infinity. */
  readonly shift: number;
  /** Bits of a coefficient, sign included. */
  readonly precision: number;
}

/** The fixed predictors take differences of differences: order 0 to this (RFC 9639, table 22). */
export const MOST_FIXED_ORDER = 4;

/** A residual has to be less than this in magnitude (RFC 9639, 9.2.7.3). */
const RESIDUAL_LIMIT = 2 ** 31;

/** Residuals of the fixed predictor of each order up to the fourth or up to the length: the first `order` are not meant. */
export function fixedResiduals(samples: Int32Array): readonly Int32Array[] {
  const residuals = [samples];
  for (let order = 1; order <= Math.min(MOST_FIXED_ORDER, samples.length - 1); order++) {
    const before = residuals[order - 1];
    const after = new Int32Array(samples.length);
    for (let i = order; i < after.length; i++) after[i] = before[i] - before[i - 1];
    residuals.push(after);
  }
  return residuals;
}

/** Residuals of a linear predictor, the first ones being 0; null if one does not fit into 32 bits. */
export function linearResidual(samples: Int32Array, { coefficients, shift }: Predictor): Int32Array | null {
  const order = coefficients.length;
  const weights = Float64Array.from(coefficients);
  const out = new Int32Array(samples.length);
  const scale = 2 ** -shift;
  for (let i = order; i < samples.length; i++) {
    // 25 bits by 15 bits by 5 bits of order: 53-bit numbers hold each sum exactly.
    let sum = 0;
    for (let k = 0; k < order; k++) sum += weights[k] * samples[i - 1 - k];
    const residual = samples[i] - Math.floor(sum * scale);
    if (residual >= RESIDUAL_LIMIT || residual <= -RESIDUAL_LIMIT) return null;
    out[i] = residual;
  }
  return out;
}

/** Part of a block over which the window rises and falls: half of it in all (Tukey's window; common practice, no source). */
const TAPER = 0.5;

/** All blocks but the last of a sound have one length. */
const windows = new LRUCache<number, Float64Array>({ max: 4 });

function windowOf(length: number): Float64Array {
  const known = windows.get(length);
  if (known) return known;
  const ramp = Math.max(1, Math.floor((TAPER / 2) * length));
  const made = Float64Array.from({ length }, (_, i) => {
    const fromEdge = Math.min(i, length - 1 - i);
    return fromEdge >= ramp ? 1 : steady(0.5 * (1 - Math.cos((Math.PI * (fromEdge + 0.5)) / ramp)));
  });
  windows.set(length, made);
  return made;
}

function autocorrelation(samples: Int32Array, most: number): Float64Array {
  const window = windowOf(samples.length);
  const windowed = new Float64Array(samples.length);
  for (let i = 0; i < windowed.length; i++) windowed[i] = samples[i] * window[i];
  const out = new Float64Array(most + 1);
  for (let lag = 0; lag <= most; lag++) {
    let sum = 0;
    for (let i = lag; i < windowed.length; i++) sum += windowed[i] * windowed[i - lag];
    out[lag] = sum;
  }
  return out;
}

/**
 * Levinson and Durbin's recursion (Makhoul, "Linear Prediction: A Tutorial Review", 1975; from memory): for each order from
 * 1 on the coefficients that leave the least energy, and that energy.
 */
function linearPredictors(samples: Int32Array, most: number): { coefficients: number[]; error: number }[] {
  const correlation = autocorrelation(samples, most);
  const found: { coefficients: number[]; error: number }[] = [];
  let error = correlation[0];
  let coefficients: number[] = [];
  for (let order = 1; order <= most && error > 0; order++) {
    let sum = correlation[order];
    coefficients.forEach((value, k) => {
      sum -= value * correlation[order - 1 - k];
    });
    const reflection = sum / error;
    coefficients = [...coefficients.map((value, k) => value - reflection * coefficients[order - 2 - k]), reflection];
    error *= 1 - reflection * reflection;
    found.push({ coefficients, error });
  }
  return found;
}

const LONGEST_SHIFT = 15;

/** Rounds coefficients to whole numbers of `precision` bits, each taking over the error of those before; null if none fit. */
function rounded(coefficients: readonly number[], precision: number): Predictor | null {
  const largest = Math.max(...coefficients.map(Math.abs));
  if (!(largest > 0)) return null;
  const shift = Math.min(LONGEST_SHIFT, precision - 2 - Math.floor(steady(Math.log2(largest))));
  // A negative shift is not allowed; such coefficients do not come of sound.
  if (shift < 0) return null;
  const [least, most] = [-(2 ** (precision - 1)), 2 ** (precision - 1) - 1];
  let carried = 0;
  const whole = coefficients.map((value) => {
    const exact = value * 2 ** shift + carried;
    const nearest = Math.min(most, Math.max(least, Math.round(exact)));
    carried = exact - nearest;
    return nearest;
  });
  return { coefficients: whole, shift, precision };
}

/** Bits of a coefficient: deeper samples pay for finer ones. 15 is the most there is. */
const precisionFor = (bits: number): number => (bits > 16 ? 15 : 14);
const MOST_ORDER = 12;

/**
 * The linear predictor that promises the fewest bits in all: those of the residual, half the binary logarithm of its mean
 * square each, and those of what is stored as it is. Null if nothing can be predicted.
 * @param bits of a sample
 */
export function bestPredictor(samples: Int32Array, bits: number): Predictor | null {
  const most = Math.min(MOST_ORDER, samples.length - 1);
  const precision = precisionFor(bits);
  let best: readonly number[] | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const { coefficients, error } of linearPredictors(samples, most)) {
    const order = coefficients.length;
    const each = Math.max(0, 0.5 * Math.log2(error / samples.length));
    const cost = each * (samples.length - order) + order * (bits + precision);
    if (!(cost < least)) continue;
    least = cost;
    best = coefficients;
  }
  return best && rounded(best, precision);
}
