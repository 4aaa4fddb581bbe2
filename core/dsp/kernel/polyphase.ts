import { kernelBase64 } from './kernel.wasm.ts';

/** Rows of filter coefficients: `phases` rows of `taps` each; `taps` is a multiple of 8. */
export interface PolyphaseFilter {
  readonly taps: number;
  readonly phases: number;
  /** Input advances by step / phases frames for each output. */
  readonly step: number;
  readonly coefficients: Float64Array;
}

/**
 * Fills `output[0..count)` by convolving `input`, whose first element meets the first tap of output 0, which uses row
 * `phase`. `input` holds at least floor((phase + (count - 1) * step) / phases) + taps values.
 */
export type PolyphaseKernel = (input: Float64Array, output: Float64Array, count: number, phase: number) => void;

/** The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in where SIMD is missing. */
export function polyphaseTwin(filter: PolyphaseFilter): PolyphaseKernel {
  const { taps, phases, step, coefficients: h } = filter;
  return (x, y, count, firstPhase) => {
    let phase = firstPhase;
    let at = 0;
    for (let n = 0; n < count; n++) {
      let a0 = 0;
      let a1 = 0;
      let b0 = 0;
      let b1 = 0;
      let c0 = 0;
      let c1 = 0;
      let d0 = 0;
      let d1 = 0;
      let row = phase * taps;
      const end = row + taps;
      for (let i = at; row < end; row += 8, i += 8) {
        a0 += x[i] * h[row];
        a1 += x[i + 1] * h[row + 1];
        b0 += x[i + 2] * h[row + 2];
        b1 += x[i + 3] * h[row + 3];
        c0 += x[i + 4] * h[row + 4];
        c1 += x[i + 5] * h[row + 5];
        d0 += x[i + 6] * h[row + 6];
        d1 += x[i + 7] * h[row + 7];
      }
      y[n] = a0 + b0 + (c0 + d0) + (a1 + b1 + (c1 + d1));
      phase += step;
      at += Math.floor(phase / phases);
      phase %= phases;
    }
  };
}

const PAGE = 65536;
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
  const h = maxInput * 8;
  const y = h + coefficients.length * 8;
  const wanted = Math.ceil((y + maxOutput * 8) / PAGE) - memory.buffer.byteLength / PAGE;
  if (wanted > 0) memory.grow(wanted);
  const inputView = new Float64Array(memory.buffer, x, maxInput);
  const outputView = new Float64Array(memory.buffer, y, maxOutput);
  new Float64Array(memory.buffer, h, coefficients.length).set(coefficients);
  return (input, output, count, phase) => {
    inputView.set(input);
    run(x, h, y, count, taps, phase, phases, step);
    output.set(outputView.subarray(0, count));
  };
}
