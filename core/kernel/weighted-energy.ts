import { PIECE, placeOf, ROOM, reserve, sharedMemory } from './memory.ts';

/** Numbers of a filter's state for each channel. */
const STATE = 4;

/** Two filters of second order one after the other: b0, b1, b2, a1, a2 of the first; a1, a2 of the second, whose b is 1, -2, 1. */
export type Coefficients = readonly [number, number, number, number, number, number, number];

/** Samples that the kernel takes at a time. */
export const MOST_FRAMES = PIECE;

/** Filters the next samples of two channels, remembers its state, and gives the energy of each channel's output. */
export type EnergyKernel = (left: Float32Array, right: Float32Array) => readonly [number, number];

/**
 * The coefficients of the filters as their states need them: with y = b0 x + u1 in u1 = b1 x - a1 y + u2, u1 becomes
 * (b1 - a1 b0) x + u2 - a1 u1, and so on.
 */
const ofStates = ([b0, b1, b2, a1, a2, c1, c2]: Coefficients) =>
  [b0, b1 - a1 * b0, b2 - a2 * b0, a1, a2, -2 - c1, 1 - c2, c1, c2] as const;

/**
 * What is left of a state is given up long before it is so small that processors count slowly: in silence states fade by
 * some 200 dB in one call, and squares of them are summed.
 */
const settled = (value: number): number => (Math.abs(value) < 1e-60 ? 0 : value);

/** The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in. The same sums in the same order. */
export function weightedEnergyTwin(coefficients: Coefficients): EnergyKernel {
  const [b0, b1, b2, a1, a2, d1, d2, c1, c2] = ofStates(coefficients);
  const states = [new Float64Array(STATE), new Float64Array(STATE)];
  const energyOf = (samples: Float32Array, state: Float64Array): number => {
    let [u1, u2, v1, v2] = state;
    let energy = 0;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i];
      const y = b0 * x + u1;
      const u = u1;
      u1 = b1 * x + u2 - a1 * u;
      u2 = b2 * x - a2 * u;
      const z = y + v1;
      const v = v1;
      v1 = d1 * y + v2 - c1 * v;
      v2 = d2 * y - c2 * v;
      energy += z * z;
    }
    state.set([u1, u2, v1, v2].map(settled));
    return energy;
  };
  return (left, right) => [energyOf(left, states[0]), energyOf(right, states[1])];
}

const DOUBLE = Float64Array.BYTES_PER_ELEMENT;
const X = reserve(ROOM);
const Y = reserve(ROOM);
const COEFFICIENTS = reserve(9 * DOUBLE);
/** Two numbers each, one for a channel; last the energies. */
const STATES = reserve(2 * (STATE + 1) * DOUBLE);

/** The fastest kernel that runs here; `left` and `right` have at most `MOST_FRAMES` samples. */
export function weightedEnergyKernel(coefficients: Coefficients): EnergyKernel {
  const memory = sharedMemory();
  if (!memory) return weightedEnergyTwin(coefficients);
  const { doubles, run } = memory;
  const numbers = ofStates(coefficients);
  const state = new Float64Array(2 * STATE);
  const [at, end] = [STATES / DOUBLE, STATES / DOUBLE + state.length];
  return (left, right) => {
    doubles.set(numbers, COEFFICIENTS / DOUBLE);
    doubles.set(state, at);
    const x = placeOf(memory, left, X);
    run.weightedEnergy(x, left === right ? x : placeOf(memory, right, Y), left.length, COEFFICIENTS, STATES);
    for (let i = 0; i < state.length; i++) state[i] = settled(doubles[at + i]);
    return [doubles[end], doubles[end + 1]];
  };
}
