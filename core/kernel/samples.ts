import { FLOAT, inPieces, LANES, made, PIECE, placeOf, ROOM, reserve, sharedMemory } from './memory.ts';

/** Two arrays of samples in, two out, and figures. */
const X = reserve(2 * ROOM);
const Y = X + ROOM;
const LEFT = reserve(2 * ROOM);
const RIGHT = LEFT + ROOM;
const EXTREMES = reserve(4 * LANES * FLOAT);
const SUMS = reserve(10 * Float64Array.BYTES_PER_ELEMENT);

/** Frames of two samples as two channels. `samples` has twice as many as `left` and `right`. */
export function splitFloats(samples: Float32Array, left: Float32Array, right: Float32Array): void {
  const kernel = sharedMemory();
  if (!kernel) {
    splitFloatsTwin(samples, left, right);
    return;
  }
  inPieces(left.length, (at, length) => {
    // Twice as many samples as frames: they take the room of both inputs.
    kernel.floats.set(samples.subarray(2 * at, 2 * (at + length)), X / FLOAT);
    kernel.run.splitFloats(X, LEFT, RIGHT, length);
    left.set(made(kernel, LEFT, length), at);
    right.set(made(kernel, RIGHT, length), at);
  });
}

/** Each kernel has a twin in plain TypeScript: its oracle in the tests, and its stand-in. The same bits. */
export function splitFloatsTwin(samples: Float32Array, left: Float32Array, right: Float32Array): void {
  for (let frame = 0, at = 0; frame < left.length; frame++, at += 2) {
    left[frame] = samples[at];
    right[frame] = samples[at + 1];
  }
}

/** The bits of numbers of either kind, which are moved and not looked at. */
const bitsOf = (numbers: Numbers): Float32Array =>
  numbers instanceof Float32Array ? numbers : new Float32Array(numbers.buffer, numbers.byteOffset, numbers.length);

type Numbers = Float32Array | Int32Array;

/** Two channels as frames of two numbers. `out` has twice as many as `left` and `right`. */
export function joinPair<T extends Numbers>(left: T, right: T, out: T): void {
  const kernel = sharedMemory();
  if (!kernel) {
    joinPairTwin(left, right, out);
    return;
  }
  const [first, second, both] = [bitsOf(left), bitsOf(right), bitsOf(out)];
  inPieces(left.length, (at, length) => {
    const place = placeOf(kernel, first.subarray(at, at + length), X);
    // What is made takes the room of both outputs.
    kernel.run.joinPair(place, placeOf(kernel, second.subarray(at, at + length), Y), LEFT, length);
    both.set(made(kernel, LEFT, 2 * length), 2 * at);
  });
}

export function joinPairTwin<T extends Numbers>(left: T, right: T, out: T): void {
  for (let frame = 0, at = 0; frame < left.length; frame++, at += 2) {
    out[at] = left[frame];
    out[at + 1] = right[frame];
  }
}

/** Little-endian 16-bit frames of two samples as two channels of -1..1. */
export function splitIntegers(bytes: Uint8Array, left: Float32Array, right: Float32Array): void {
  const kernel = sharedMemory();
  if (!kernel) {
    splitIntegersTwin(bytes, left, right);
    return;
  }
  inPieces(left.length, (at, length) => {
    kernel.bytes.set(bytes.subarray(4 * at, 4 * (at + length)), X);
    kernel.run.splitIntegers(X, LEFT, RIGHT, length);
    left.set(made(kernel, LEFT, length), at);
    right.set(made(kernel, RIGHT, length), at);
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
  const kernel = sharedMemory();
  if (!kernel) {
    integersToFloatsTwin(bytes, out);
    return;
  }
  inPieces(out.length, (at, length) => {
    kernel.bytes.set(bytes.subarray(2 * at, 2 * (at + length)), X);
    kernel.run.integersToFloats(X, LEFT, length);
    out.set(made(kernel, LEFT, length), at);
  });
}

export function integersToFloatsTwin(bytes: Uint8Array, out: Float32Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let i = 0; i < out.length; i++) out[i] = view.getInt16(2 * i, true) / 32_768;
}

/** out = a x + b y, in numbers of 32 bits. */
export function weigh(x: Float32Array, a: number, y: Float32Array, b: number, out: Float32Array): void {
  const kernel = sharedMemory();
  if (!kernel) {
    weighTwin(x, a, y, b, out);
    return;
  }
  inPieces(out.length, (at, length) => {
    const first = placeOf(kernel, x.subarray(at, at + length), X);
    const second = placeOf(kernel, y.subarray(at, at + length), Y);
    kernel.run.weigh(first, second, LEFT, length, a, b);
    out.set(made(kernel, LEFT, length), at);
  });
}

export function weighTwin(x: Float32Array, a: number, y: Float32Array, b: number, out: Float32Array): void {
  const { fround } = Math;
  const [first, second] = [fround(a), fround(b)];
  for (let i = 0; i < out.length; i++) out[i] = fround(fround(first * x[i]) + fround(second * y[i]));
}

/** Samples times a factor. */
export function scale(samples: Float32Array, factor: number, out: Float32Array): void {
  const kernel = sharedMemory();
  if (!kernel) {
    scaleTwin(samples, factor, out);
    return;
  }
  inPieces(out.length, (at, length) => {
    kernel.run.scale(placeOf(kernel, samples.subarray(at, at + length), X), LEFT, length, factor);
    out.set(made(kernel, LEFT, length), at);
  });
}

export function scaleTwin(samples: Float32Array, factor: number, out: Float32Array): void {
  for (let i = 0; i < out.length; i++) out[i] = samples[i] * factor;
}

/** Power of samples, and of the difference of others from them: sums over both. */
export interface Deviation {
  readonly signal: number;
  readonly noise: number;
}

/** Sums over as many samples as there are of both. */
export function deviation(exact: Float32Array, other: Float32Array): Deviation {
  const kernel = sharedMemory();
  if (!kernel) return deviationTwin(exact, other);
  let [signal, noise] = [0, 0];
  inPieces(Math.min(exact.length, other.length), (at, length) => {
    const first = placeOf(kernel, exact.subarray(at, at + length), X, true);
    kernel.run.deviation(first, placeOf(kernel, other.subarray(at, at + length), Y, true), length, SUMS);
    signal += kernel.doubles[SUMS / 8];
    noise += kernel.doubles[SUMS / 8 + 1];
  });
  return { signal, noise };
}

export function deviationTwin(exact: Float32Array, other: Float32Array): Deviation {
  let [signal, noise] = [0, 0];
  inPieces(Math.min(exact.length, other.length), (from, length) => {
    const sums = [0, 0, 0, 0];
    for (let at = from; at < from + length; at += LANES) {
      const [a, d] = [0, 1].map((which) =>
        Array.from({ length: LANES }, (_, k) =>
          at + k < from + length ? (which ? other[at + k] - exact[at + k] : exact[at + k]) : 0,
        ),
      );
      for (let k = 0; k < 2; k++) {
        sums[k] += a[k] * a[k] + a[k + 2] * a[k + 2];
        sums[2 + k] += d[k] * d[k] + d[k + 2] * d[k + 2];
      }
    }
    signal += sums[0] + sums[1];
    noise += sums[2] + sums[3];
  });
  return { signal, noise };
}

/** Whether all samples are numbers of at most `limit` in magnitude. */
export function within(samples: Float32Array, limit: number): boolean {
  const kernel = sharedMemory();
  if (!kernel) return withinTwin(samples, limit);
  let all = true;
  inPieces(samples.length, (at, length) => {
    const place = placeOf(kernel, samples.subarray(at, at + length), X, true);
    all &&= kernel.run.within(place, length, limit) === 1;
  });
  return all;
}

export function withinTwin(samples: Float32Array, limit: number): boolean {
  for (let i = 0; i < samples.length; i++) if (!(Math.abs(samples[i]) <= limit)) return false;
  return true;
}

/** Highest magnitude. */
export function highest(samples: Float32Array): number {
  const kernel = sharedMemory();
  if (!kernel) return highestTwin(samples);
  let most = 0;
  inPieces(samples.length, (at, length) => {
    most = Math.max(most, kernel.run.highest(placeOf(kernel, samples.subarray(at, at + length), X, true), length));
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
  const kernel = sharedMemory();
  if (!kernel) return pairLevelsTwin(x, y);
  const found = new PairLevels();
  inPieces(x.length, (at, length) => {
    const first = placeOf(kernel, x.subarray(at, at + length), X, true);
    const second = x === y ? first : placeOf(kernel, y.subarray(at, at + length), Y, true);
    kernel.run.levels(first, second, length, EXTREMES);
    found.add(
      kernel.floats.subarray(EXTREMES / FLOAT, EXTREMES / FLOAT + 4 * LANES),
      kernel.doubles.subarray(SUMS / 8, SUMS / 8 + 10),
    );
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

/**
 * Lowest and highest of each run of `step` samples, a multiple of four; `samples` holds whole runs. Puts the pairs into
 * `out`, the first at `at`, each `stride` after the one before.
 */
export function extremes(samples: Float32Array, step: number, out: Float32Array, at: number, stride: number): void {
  const kernel = sharedMemory();
  if (!kernel) {
    extremesTwin(samples, step, out, at, stride);
    return;
  }
  const whole = PIECE - (PIECE % step);
  for (let from = 0; from < samples.length; from += whole) {
    const piece = samples.subarray(from, from + whole);
    const bins = piece.length / step;
    kernel.run.extremes(placeOf(kernel, piece, X), bins, step, LEFT);
    const pairs = made(kernel, LEFT, 2 * bins);
    for (let bin = 0; bin < bins; bin++) {
      const place = at + (from / step + bin) * stride;
      out[place] = pairs[2 * bin];
      out[place + 1] = pairs[2 * bin + 1];
    }
  }
}

export function extremesTwin(samples: Float32Array, step: number, out: Float32Array, at: number, stride: number): void {
  for (let from = 0; from < samples.length; from += step) {
    let low = samples[from];
    let high = low;
    for (let i = from + 1; i < Math.min(from + step, samples.length); i++) {
      if (samples[i] < low) low = samples[i];
      else if (samples[i] > high) high = samples[i];
    }
    const place = at + (from / step) * stride;
    out[place] = low;
    out[place + 1] = high;
  }
}

/**
 * Sum of squares of each run of `step` samples, a multiple of four; `samples` holds whole runs. Puts the sums into `out`,
 * the first at `at`, each `stride` after the one before.
 */
export function squares(samples: Float32Array, step: number, out: Float64Array, at: number, stride: number): void {
  const kernel = sharedMemory();
  if (!kernel) {
    squaresTwin(samples, step, out, at, stride);
    return;
  }
  const whole = PIECE - (PIECE % step);
  for (let from = 0; from < samples.length; from += whole) {
    const piece = samples.subarray(from, from + whole);
    const bins = piece.length / step;
    kernel.run.squares(placeOf(kernel, piece, X), bins, step, LEFT);
    for (let bin = 0; bin < bins; bin++) {
      out[at + (from / step + bin) * stride] = kernel.doubles[LEFT / Float64Array.BYTES_PER_ELEMENT + bin];
    }
  }
}

export function squaresTwin(samples: Float32Array, step: number, out: Float64Array, at: number, stride: number): void {
  const sums = new Float64Array(LANES);
  for (let from = 0; from < samples.length; from += step) {
    sums.fill(0);
    for (let i = from; i < from + step; i++) sums[(i - from) % LANES] += samples[i] * samples[i];
    out[at + (from / step) * stride] = sums[0] + sums[2] + (sums[1] + sums[3]);
  }
}
