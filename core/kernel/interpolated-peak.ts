import { FLOAT, LANES, PIECE, placeOf, ROOM, reserve, sharedMemory } from './memory.ts';
import { highestTwin } from './samples.ts';

/** Taps of each of the four phases. */
export const TAPS = 12;
/** Of two phases; the other two are these two mirrored. */
const PHASES = 2;

/** Samples that the kernel takes at a time. */
export const MOST_SAMPLES = PIECE - TAPS;

/**
 * Highest magnitude of `input` and of what lies between its samples, or `peak` where that is higher: for each sample but the
 * last 11 the four phases' sums over it and the 11 after it. `input` has 12 to `MOST_SAMPLES` + 11.
 */
export type PeakKernel = (input: Float32Array, peak: number) => number;

/** What rounding may add to a bound. */
const ROUNDING = 1.0001;

interface Bounds {
  readonly gain: number;
  readonly near: number;
  readonly curved: number;
}

/**
 * How large an output can be: |y| <= (sum of a phase's magnitudes) max|x|. And how far it can lie from the two samples
 * that it is between. A phase is a x5 + b x6 for its two middle samples, with a and b such that constants and straight
 * lines come out alike, and what is left: a weighed sum of second differences, the weights being what is left summed up
 * twice. So |y| <= (|a| + |b|) max(|x5|, |x6|) + (sum of |weights|) max|second difference|.
 */
function boundsOf(phases: readonly Float64Array[]): Bounds {
  let [gain, near, curved] = [0, 0, 0];
  for (const phase of phases.flatMap((one) => [one, one.toReversed()])) {
    const sum = phase.reduce((total, value) => total + value, 0);
    const moment = phase.reduce((total, value, k) => total + value * (k - MIDDLE), 0);
    near = Math.max(near, Math.abs(sum - moment) + Math.abs(moment));
    const left = phase.map((value, k) => value - (k === MIDDLE ? sum - moment : k === MIDDLE + 1 ? moment : 0));
    gain = Math.max(
      gain,
      phase.reduce((total, value) => total + Math.abs(value), 0),
    );
    let [once, twice, weights] = [0, 0, 0];
    for (const value of left) {
      once += value;
      twice += once;
      weights += Math.abs(twice);
    }
    curved = Math.max(curved, weights);
  }
  return { gain: gain * ROUNDING, near: near * ROUNDING, curved: curved * ROUNDING };
}

/** Of the two samples in the middle of a phase the first. */
const MIDDLE = TAPS / 2 - 1;

/** For each pair of taps (k, 11 - k): sum and difference of the coefficients of one phase, then of the other. */
const pairsOf = (phases: readonly [Float64Array, Float64Array]): Float32Array =>
  Float32Array.from({ length: (TAPS / 2) * PHASES * 2 }, (_, i) => {
    const k = Math.floor(i / 4);
    const phase = phases[i % 4 < 2 ? 0 : 1];
    return i % 2 === 0 ? phase[k] + phase[TAPS - 1 - k] : phase[k] - phase[TAPS - 1 - k];
  });

/**
 * The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in where SIMD is missing. Every step
 * rounded to 32 bits in the same order: the same bits.
 * @param phases coefficients of two phases, the one for the oldest sample first; the other two are these mirrored
 */
export function interpolatedPeakTwin(phases: readonly [Float64Array, Float64Array]): PeakKernel {
  const { fround } = Math;
  const pairs = pairsOf(phases);
  return (input, known) => {
    let peak = Math.max(known, highestTwin(input)) * 2;
    for (let i = 0; i < input.length - TAPS + 1; i++) {
      for (let phase = 0; phase < PHASES; phase++) {
        let a = 0;
        let b = 0;
        for (let k = 0; k < TAPS / 2; k++) {
          const left = input[i + k];
          const right = input[i + TAPS - 1 - k];
          const at = 4 * k + 2 * phase;
          a = fround(a + fround(fround(left + right) * pairs[at]));
          b = fround(b + fround(fround(left - right) * pairs[at + 1]));
        }
        // The phase is (a + b) / 2, its mirror (a - b) / 2.
        const twice = fround(Math.abs(a) + Math.abs(b));
        if (twice > peak) peak = twice;
      }
    }
    return fround(0.5 * peak);
  };
}

/** Places that the kernel looks at together, and how far it may look beyond the last. */
const LEAST = 16;
const BEYOND = 96;

const X = reserve(ROOM + BEYOND * FLOAT);
const PAIRS = reserve((TAPS / 2) * PHASES * 2 * LANES * FLOAT);

/** The fastest kernel that runs here. */
export function interpolatedPeakKernel(phases: readonly [Float64Array, Float64Array]): PeakKernel {
  const twin = interpolatedPeakTwin(phases);
  const memory = sharedMemory();
  if (!memory) return twin;
  const pairs = Float32Array.from(pairsOf(phases)).reduce<number[]>(
    (all, value) => all.concat(value, value, value, value),
    [],
  );
  const { gain, near, curved } = boundsOf(phases);
  return (input, peak) => {
    const count = input.length - TAPS + 1;
    if (count < LEAST) return twin(input, peak);
    memory.floats.set(pairs, PAIRS / FLOAT);
    return memory.run.interpolatedPeak(placeOf(memory, input, X), PAIRS, count, peak, gain, near, curved);
  };
}
