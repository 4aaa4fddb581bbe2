import { kernelInstance, kernelModule } from './module.ts';

/** Taps of each of the four phases. */
export const TAPS = 12;
const BYTES = Float32Array.BYTES_PER_ELEMENT;
const LANES = 4;
/** Of two phases; the other two are these two mirrored. */
const PHASES = 2;

/** Samples that the kernel takes at a time. */
export const MOST_SAMPLES = 16_384;

/**
 * Highest magnitude of what lies between samples: for each of the first `count` samples of `input`, which has 11 more,
 * the four phases' sums over it and those 11.
 */
export type PeakKernel = (input: Float32Array, count: number) => number;

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
  return (input, count) => {
    let peak = 0;
    for (let i = 0; i < count; i++) {
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

/** The fastest kernel that runs here. */
export function interpolatedPeakKernel(phases: readonly [Float64Array, Float64Array]): PeakKernel {
  const twin = interpolatedPeakTwin(phases);
  const compiled = kernelModule();
  if (!compiled) return twin;
  const pairs = pairsOf(phases);
  const x = pairs.length * LANES * BYTES;
  const room = MOST_SAMPLES + TAPS - 1;
  const exports = kernelInstance(compiled, x + room * BYTES);
  const { buffer } = exports.memory as WebAssembly.Memory;
  const h = new Float32Array(buffer, 0, pairs.length * LANES);
  for (let i = 0; i < h.length; i++) h[i] = pairs[Math.floor(i / LANES)];
  const view = new Float32Array(buffer, x, room);
  const run = exports.interpolatedPeak as (x: number, h: number, count: number) => number;
  return (input, count) => {
    if (count < LANES) return twin(input, count);
    view.set(input.length === count + TAPS - 1 ? input : input.subarray(0, count + TAPS - 1));
    return run(x, 0, count);
  };
}
