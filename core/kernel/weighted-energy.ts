import { kernelInstance, kernelModule } from './module.ts';

/** Numbers of a filter's state for each channel. */
const STATE = 4;

/** Two filters of second order one after the other: b0, b1, b2, a1, a2 of the first; a1, a2 of the second, whose b is 1, -2, 1. */
export type Coefficients = readonly [number, number, number, number, number, number, number];

/** Samples that the kernel takes at a time. */
export const MOST_FRAMES = 16_384;

/** Filters the next samples of two channels, remembers its state, and gives the energy of each channel's output. */
export type EnergyKernel = (left: Float32Array, right: Float32Array) => readonly [number, number];

/** The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in. The same sums in the same order. */
export function weightedEnergyTwin([b0, b1, b2, a1, a2, c1, c2]: Coefficients): EnergyKernel {
  const states = [new Float64Array(STATE), new Float64Array(STATE)];
  const energyOf = (samples: Float32Array, state: Float64Array): number => {
    let [u1, u2, v1, v2] = state;
    let energy = 0;
    // Transposed form.
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i];
      const y = b0 * x + u1;
      u1 = b1 * x - a1 * y + u2;
      u2 = b2 * x - a2 * y;
      const z = y + v1;
      v1 = -2 * y - c1 * z + v2;
      v2 = y - c2 * z;
      energy += z * z;
    }
    state.set([u1, u2, v1, v2]);
    return energy;
  };
  return (left, right) => [energyOf(left, states[0]), energyOf(right, states[1])];
}

/** The fastest kernel that runs here; `left` and `right` have at most `MOST_FRAMES` samples. */
export function weightedEnergyKernel(coefficients: Coefficients): EnergyKernel {
  const compiled = kernelModule();
  if (!compiled) return weightedEnergyTwin(coefficients);
  const bytes = Float64Array.BYTES_PER_ELEMENT;
  const state = 8 * bytes;
  const x = state + 2 * (STATE + 1) * bytes;
  const y = x + MOST_FRAMES * Float32Array.BYTES_PER_ELEMENT;
  const exports = kernelInstance(compiled, y + MOST_FRAMES * Float32Array.BYTES_PER_ELEMENT);
  const { buffer } = exports.memory as WebAssembly.Memory;
  new Float64Array(buffer, 0, coefficients.length).set(coefficients);
  const leftView = new Float32Array(buffer, x, MOST_FRAMES);
  const rightView = new Float32Array(buffer, y, MOST_FRAMES);
  const energies = new Float64Array(buffer, state + 2 * STATE * bytes, 2);
  const run = exports.weightedEnergy as (x: number, y: number, count: number, c: number, s: number) => void;
  return (left, right) => {
    leftView.set(left);
    rightView.set(right);
    run(x, y, left.length, 0, state);
    return [energies[0], energies[1]];
  };
}
