import { kernelBase64 } from './kernel.wasm.ts';

/** Rows of filter coefficients: `phases` rows of `taps` each; `taps` is a multiple of 16. */
export interface PolyphaseFilter {
  readonly taps: number;
  readonly phases: number;
  /** Input advances by step / phases frames for each output. */
  readonly step: number;
  readonly coefficients: Float32Array;
}

/**
 * Fills `output[0..count)` by convolving `input`, whose first element meets the first tap of output 0, which uses row
 * `phase`. `input` holds at least floor((phase + (count - 1) * step) / phases) + taps values.
 */
export type PolyphaseKernel = (input: Float32Array, output: Float32Array, count: number, phase: number) => void;

const LANES = 16;

/**
 * The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in where SIMD is missing. Sixteen sums
 * side by side, every step rounded to 32 bits, joined in the same order: the same bits.
 */
export function polyphaseTwin(filter: PolyphaseFilter): PolyphaseKernel {
  const { taps, phases, step, coefficients: h } = filter;
  const sums = new Float32Array(LANES);
  const { fround } = Math;
  return (x, y, count, firstPhase) => {
    let phase = firstPhase;
    let at = 0;
    for (let n = 0; n < count; n++) {
      sums.fill(0);
      const row = phase * taps;
      for (let tap = 0; tap < taps; tap += LANES) {
        for (let lane = 0; lane < LANES; lane++) sums[lane] += fround(x[at + tap + lane] * h[row + tap + lane]);
      }
      // Lane k of the four vectors a, b, c, d: (a + b) + (c + d).
      const lane = (k: number) => fround(fround(sums[k] + sums[k + 4]) + fround(sums[k + 8] + sums[k + 12]));
      y[n] = fround(fround(lane(0) + lane(1)) + fround(lane(2) + lane(3)));
      phase += step;
      at += Math.floor(phase / phases);
      phase %= phases;
    }
  };
}

const PAGE = 65536;
const BYTES = Float32Array.BYTES_PER_ELEMENT;
let module: WebAssembly.Module | null | undefined;

/** The compiled module, or null where the engine has no SIMD WebAssembly. Compiled once, at first use. */
function kernelModule(): WebAssembly.Module | null {
  if (module === undefined) {
    try {
      module = new WebAssembly.Module(Uint8Array.from(atob(kernelBase64), (char) => char.charCodeAt(0)));
    } catch {
      module = null;
    }
  }
  return module;
}

/** The fastest kernel that runs here for `filter`, on blocks of at most `maxInput` and `maxOutput` values. */
export function polyphaseKernel(filter: PolyphaseFilter, maxInput: number, maxOutput: number): PolyphaseKernel {
  const compiled = kernelModule();
  if (!compiled) return polyphaseTwin(filter);
  const { exports } = new WebAssembly.Instance(compiled);
  const memory = exports.memory as WebAssembly.Memory;
  const run = exports.polyphase as (...args: number[]) => void;
  const { taps, phases, step, coefficients } = filter;
  const x = 0;
  const h = maxInput * BYTES;
  const y = h + coefficients.length * BYTES;
  const wanted = Math.ceil((y + maxOutput * BYTES) / PAGE) - memory.buffer.byteLength / PAGE;
  if (wanted > 0) memory.grow(wanted);
  const inputView = new Float32Array(memory.buffer, x, maxInput);
  const outputView = new Float32Array(memory.buffer, y, maxOutput);
  new Float32Array(memory.buffer, h, coefficients.length).set(coefficients);
  return (input, output, count, phase) => {
    inputView.set(input);
    run(x, h, y, count, taps, phase, phases, step);
    output.set(outputView.subarray(0, count));
  };
}
