import { FLOAT, LANES, reserve, sharedMemory } from './memory.ts';
import { ELEMENT_FLOATS, type TransformPlan, transformTwin } from './transform.ts';

/** Windows of two channels that are transformed at once. */
export const WINDOWS = LANES;

/**
 * Adds the power of windows by frequency to `power`, `count` / 2 + 1 numbers: of each channel `WINDOWS` windows of
 * `plan.count` samples one after the other, first those of one channel, then those of the other, each weighed by `shape`.
 */
export type PowerKernel = (windows: Float32Array, shape: Float32Array, power: Float64Array) => void;

/** Elements of a window, at most. */
export const LARGEST_WINDOW = 4096;

const DOUBLE = Float64Array.BYTES_PER_ELEMENT;
const X = reserve(2 * WINDOWS * LARGEST_WINDOW * FLOAT);
const DATA = reserve(LARGEST_WINDOW * ELEMENT_FLOATS * FLOAT);
const SHAPE = reserve(LARGEST_WINDOW * FLOAT);
const RADICES = reserve(16);
const FACTORS = reserve(2 * LARGEST_WINDOW * FLOAT);
const PLACES = reserve((LARGEST_WINDOW + 1) * FLOAT);
const POWER = reserve((LARGEST_WINDOW / 2 + 1) * DOUBLE);

const { fround } = Math;

/** The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in. The same sums in the same order. */
export function powerTwin(plan: TransformPlan): PowerKernel {
  const { count, places } = plan;
  return (windows, shape, power) => {
    const lanes = Array.from({ length: WINDOWS }, (_, lane) => {
      const [re, im] = [lane, lane + WINDOWS].map((at) =>
        windows.slice(at * count, (at + 1) * count).map((value, i) => value * shape[i]),
      );
      transformTwin(plan, re, im);
      return (k: number) => fround(fround(re[k] * re[k]) + fround(im[k] * im[k]));
    });
    for (let k = 0; k <= count / 2; k++) {
      const [a, b, c, d] = lanes.map((powerAt) => {
        const own = powerAt(places[k]);
        return k === 0 ? own : fround(own + powerAt(places[count - k]));
      });
      power[k] += fround(fround(a + c) + fround(b + d));
    }
  };
}

/** The fastest kernel that runs here; the plan has at most `LARGEST_WINDOW` elements. */
export function powerKernel(plan: TransformPlan): PowerKernel {
  const memory = sharedMemory();
  if (!memory) return powerTwin(plan);
  const { bytes, floats, doubles, words, run } = memory;
  const { count, radices, factors } = plan;
  const places = Uint32Array.from({ length: count + 1 }, (_, k) => plan.places[k % count] * ELEMENT_FLOATS * FLOAT);
  const at = POWER / DOUBLE;
  return (windows, shape, power) => {
    bytes.set(radices, RADICES);
    floats.set(factors, FACTORS / FLOAT);
    words.set(places, PLACES / FLOAT);
    floats.set(windows, X / FLOAT);
    floats.set(shape, SHAPE / FLOAT);
    doubles.set(power, at);
    run.takeBlocks(X, count, DATA, count);
    run.weighElements(DATA, SHAPE, count);
    run.transform(DATA, count, RADICES, radices.length, FACTORS);
    run.gatherPower(DATA, PLACES, count, POWER);
    power.set(doubles.subarray(at, at + power.length));
  };
}
