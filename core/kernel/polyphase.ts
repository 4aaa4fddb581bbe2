import { kernelInstance, kernelModule } from './module.ts';

/**
 * Rows of filter coefficients, `taps` each (a multiple of 16). Input advances by step / phases frames for each output.
 * Either there is a row for each of the phases, or there are `rows` + 1 of them, the last being the first moved by one
 * frame, and what lies between two rows is found by weighing them.
 */
export interface PolyphaseFilter {
  readonly taps: number;
  readonly phases: number;
  readonly step: number;
  readonly rows: number;
  readonly coefficients: Float32Array;
}

/** True if every phase has its own row. */
export const isExact = ({ phases, rows }: PolyphaseFilter): boolean => rows === phases;

/**
 * Fills `output[0..count)` by convolving `input`, whose first element meets the first tap of output 0, which stands at
 * `phase`. `input` holds at least floor((phase + (count - 1) * step) / phases) + taps values.
 */
export type PolyphaseKernel = (input: Float32Array, output: Float32Array, count: number, phase: number) => void;

const LANES = 16;
const { fround } = Math;

/**
 * The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in where SIMD is missing. Sixteen sums
 * side by side, every step rounded to 32 bits, joined in the same order: the same bits.
 */
export function polyphaseTwin(filter: PolyphaseFilter): PolyphaseKernel {
  const { taps, phases, step, rows, coefficients: h } = filter;
  const exact = isExact(filter);
  const sums = new Float32Array(LANES);
  const before = new Float32Array(4);
  const after = new Float32Array(4);
  // Lane k of the four vectors a, b, c, d: (a + b) + (c + d).
  const dot = (x: Float32Array, at: number, row: number, out: Float32Array) => {
    sums.fill(0);
    for (let tap = 0; tap < taps; tap += LANES) {
      for (let lane = 0; lane < LANES; lane++) sums[lane] += fround(x[at + tap + lane] * h[row * taps + tap + lane]);
    }
    for (let k = 0; k < 4; k++) out[k] = fround(sums[k] + sums[k + 4]) + fround(sums[k + 8] + sums[k + 12]);
  };
  return (x, y, count, firstPhase) => {
    let phase = firstPhase;
    let at = 0;
    for (let n = 0; n < count; n++) {
      const place = exact ? phase : (phase * rows) / phases;
      const row = Math.floor(place);
      dot(x, at, row, before);
      if (!exact) {
        const part = fround(place - row);
        dot(x, at, row + 1, after);
        for (let k = 0; k < 4; k++) before[k] += fround(part * fround(after[k] - before[k]));
      }
      y[n] = fround(fround(before[0] + before[1]) + fround(before[2] + before[3]));
      phase += step;
      const whole = Math.floor(phase / phases);
      at += whole;
      phase -= whole * phases;
    }
  };
}

const BYTES = Float32Array.BYTES_PER_ELEMENT;

/** The fastest kernel that runs here for `filter`, on blocks of at most `maxInput` and `maxOutput` values. */
export function polyphaseKernel(filter: PolyphaseFilter, maxInput: number, maxOutput: number): PolyphaseKernel {
  const compiled = kernelModule();
  if (!compiled) return polyphaseTwin(filter);
  const { taps, phases, step, rows, coefficients } = filter;
  const x = 0;
  const h = maxInput * BYTES;
  const y = h + coefficients.length * BYTES;
  const exports = kernelInstance(compiled, y + maxOutput * BYTES);
  const memory = exports.memory as WebAssembly.Memory;
  const run = (isExact(filter) ? exports.polyphase : exports.interpolated) as (...args: number[]) => void;
  const inputView = new Float32Array(memory.buffer, x, maxInput);
  const outputView = new Float32Array(memory.buffer, y, maxOutput);
  new Float32Array(memory.buffer, h, coefficients.length).set(coefficients);
  return (input, output, count, phase) => {
    inputView.set(input);
    run(x, h, y, count, taps, phase, phases, step, rows);
    output.set(outputView.subarray(0, count));
  };
}
