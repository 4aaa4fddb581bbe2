import { kernelInstance, kernelModule } from './module.ts';

/** Frames that the kernels take at a time; a multiple of four. */
const MOST = 16_384;
const BYTES = Float32Array.BYTES_PER_ELEMENT;
const LANES = 4;

/** Places in the memory of the instance: two arrays of samples in, two out, each with room to fill up four, and figures. */
const ROOM = (MOST + LANES) * BYTES;
const X = 0;
const Y = ROOM;
const LEFT = 2 * ROOM;
const RIGHT = 3 * ROOM;
const FIGURES = 4 * ROOM;

interface Instance {
  readonly run: Readonly<Record<string, (...args: number[]) => number>>;
  readonly bytes: Uint8Array;
  readonly floats: Float32Array;
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly left: Float32Array;
  readonly right: Float32Array;
  readonly extremes: Float32Array;
  readonly sums: Float64Array;
}

let instance: Instance | null | undefined;

function start(): Instance | null {
  const compiled = kernelModule();
  if (!compiled) return null;
  const exports = kernelInstance(compiled, FIGURES + 256);
  const { buffer } = exports.memory as WebAssembly.Memory;
  return {
    run: exports as unknown as Instance['run'],
    bytes: new Uint8Array(buffer),
    floats: new Float32Array(buffer),
    x: new Float32Array(buffer, X, MOST + LANES),
    y: new Float32Array(buffer, Y, MOST + LANES),
    left: new Float32Array(buffer, LEFT, MOST),
    right: new Float32Array(buffer, RIGHT, MOST),
    extremes: new Float32Array(buffer, FIGURES, 4 * LANES),
    sums: new Float64Array(buffer, FIGURES + 4 * LANES * BYTES, 10),
  };
}

/** One for all: its memory holds nothing between calls. Null where there is no SIMD. */
function shared(): Instance | null {
  if (instance === undefined) instance = start();
  return instance;
}

/** Calls `use` with ranges of at most `MOST` of `count` frames. */
function inPieces(count: number, use: (at: number, length: number) => void): void {
  for (let at = 0; at < count; at += MOST) use(at, Math.min(MOST, count - at));
}

/** Frames of two samples as two channels. `samples` has twice as many as `left` and `right`. */
export function splitFloats(samples: Float32Array, left: Float32Array, right: Float32Array): void {
  const kernel = shared();
  if (!kernel) {
    splitFloatsTwin(samples, left, right);
    return;
  }
  inPieces(left.length, (at, length) => {
    // Twice as many samples as frames: they take the room of both inputs.
    kernel.floats.set(samples.subarray(2 * at, 2 * (at + length)), X);
    kernel.run.splitFloats(X, LEFT, RIGHT, length);
    left.set(kernel.left.subarray(0, length), at);
    right.set(kernel.right.subarray(0, length), at);
  });
}

/** Each kernel has a twin in plain TypeScript: its oracle in the tests, and its stand-in. The same bits. */
export function splitFloatsTwin(samples: Float32Array, left: Float32Array, right: Float32Array): void {
  for (let frame = 0, at = 0; frame < left.length; frame++, at += 2) {
    left[frame] = samples[at];
    right[frame] = samples[at + 1];
  }
}

/** Little-endian 16-bit frames of two samples as two channels of -1..1. */
export function splitIntegers(bytes: Uint8Array, left: Float32Array, right: Float32Array): void {
  const kernel = shared();
  if (!kernel) {
    splitIntegersTwin(bytes, left, right);
    return;
  }
  inPieces(left.length, (at, length) => {
    kernel.bytes.set(bytes.subarray(4 * at, 4 * (at + length)), X);
    kernel.run.splitIntegers(X, LEFT, RIGHT, length);
    left.set(kernel.left.subarray(0, length), at);
    right.set(kernel.right.subarray(0, length), at);
  });
}

export function splitIntegersTwin(bytes: Uint8Array, left: Float32Array, right: Float32Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let frame = 0; frame < left.length; frame++) {
    left[frame] = view.getInt16(4 * frame, true) / 32_768;
    right[frame] = view.getInt16(4 * frame + 2, true) / 32_768;
  }
}

/** Little-endian 16-bit samples as -1..1. */
export function integersToFloats(bytes: Uint8Array, out: Float32Array): void {
  const kernel = shared();
  if (!kernel) {
    integersToFloatsTwin(bytes, out);
    return;
  }
  inPieces(out.length, (at, length) => {
    kernel.bytes.set(bytes.subarray(2 * at, 2 * (at + length)), X);
    kernel.run.integersToFloats(X, LEFT, length);
    out.set(kernel.left.subarray(0, length), at);
  });
}

export function integersToFloatsTwin(bytes: Uint8Array, out: Float32Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let i = 0; i < out.length; i++) out[i] = view.getInt16(2 * i, true) / 32_768;
}

/** out = a x + b y, in numbers of 32 bits. */
export function weigh(x: Float32Array, a: number, y: Float32Array, b: number, out: Float32Array): void {
  const kernel = shared();
  if (!kernel) {
    weighTwin(x, a, y, b, out);
    return;
  }
  inPieces(out.length, (at, length) => {
    kernel.x.set(x.subarray(at, at + length));
    kernel.y.set(y.subarray(at, at + length));
    kernel.run.weigh(X, Y, LEFT, length, a, b);
    out.set(kernel.left.subarray(0, length), at);
  });
}

export function weighTwin(x: Float32Array, a: number, y: Float32Array, b: number, out: Float32Array): void {
  const { fround } = Math;
  const [first, second] = [fround(a), fround(b)];
  for (let i = 0; i < out.length; i++) out[i] = fround(fround(first * x[i]) + fround(second * y[i]));
}

/** Highest magnitude. */
export function highest(samples: Float32Array): number {
  const kernel = shared();
  if (!kernel) return highestTwin(samples);
  let most = 0;
  inPieces(samples.length, (at, length) => {
    kernel.x.set(samples.subarray(at, at + length));
    kernel.x.fill(0, length, length + LANES);
    most = Math.max(most, kernel.run.highest(X, length));
  });
  return most;
}

export function highestTwin(samples: Float32Array): number {
  let most = 0;
  for (let i = 0; i < samples.length; i++) most = Math.max(most, Math.abs(samples[i]));
  return most;
}

/** What was found in two channels: of each the highest magnitude, the sum, the sum of squares; of both that of products. */
export class PairLevels {
  readonly peaks: [number, number] = [0, 0];
  readonly sums: [number, number] = [0, 0];
  readonly squares: [number, number] = [0, 0];
  products = 0;

  add(extremes: Float32Array, sums: Float64Array): void {
    for (const channel of [0, 1] as const) {
      for (let k = 0; k < 2 * LANES; k++) {
        this.peaks[channel] = Math.max(this.peaks[channel], Math.abs(extremes[2 * LANES * channel + k]));
      }
      this.sums[channel] += sums[2 * channel] + sums[2 * channel + 1];
      this.squares[channel] += sums[4 + 2 * channel] + sums[5 + 2 * channel];
    }
    this.products += sums[8] + sums[9];
  }
}

/** Levels of two channels of equal length. */
export function pairLevels(x: Float32Array, y: Float32Array): PairLevels {
  const kernel = shared();
  if (!kernel) return pairLevelsTwin(x, y);
  const found = new PairLevels();
  inPieces(x.length, (at, length) => {
    kernel.x.set(x.subarray(at, at + length));
    kernel.y.set(y.subarray(at, at + length));
    kernel.x.fill(0, length, length + LANES);
    kernel.y.fill(0, length, length + LANES);
    kernel.run.levels(X, Y, length, FIGURES);
    found.add(kernel.extremes, kernel.sums);
  });
  return found;
}

export function pairLevelsTwin(x: Float32Array, y: Float32Array): PairLevels {
  const found = new PairLevels();
  const extremes = new Float32Array(4 * LANES);
  const sums = new Float64Array(10);
  inPieces(x.length, (from, length) => {
    const end = from + length;
    extremes.fill(0);
    sums.fill(0);
    for (let at = from; at < end; at += LANES) {
      const [a, b] = [x, y].map((samples) =>
        Array.from({ length: LANES }, (_, k) => (at + k < end ? samples[at + k] : 0)),
      );
      for (let k = 0; k < LANES; k++) {
        extremes[k] = Math.min(extremes[k], a[k]);
        extremes[LANES + k] = Math.max(extremes[LANES + k], a[k]);
        extremes[2 * LANES + k] = Math.min(extremes[2 * LANES + k], b[k]);
        extremes[3 * LANES + k] = Math.max(extremes[3 * LANES + k], b[k]);
      }
      for (let k = 0; k < 2; k++) {
        sums[k] += a[k] + a[k + 2];
        sums[2 + k] += b[k] + b[k + 2];
        sums[4 + k] += a[k] * a[k] + a[k + 2] * a[k + 2];
        sums[6 + k] += b[k] * b[k] + b[k + 2] * b[k + 2];
        sums[8 + k] += a[k] * b[k] + a[k + 2] * b[k + 2];
      }
    }
    found.add(extremes, sums);
  });
  return found;
}
