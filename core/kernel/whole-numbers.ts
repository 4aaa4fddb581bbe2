import { FLOAT, inPieces, LANES, made, placeOf, ROOM, reserve, sharedMemory } from './memory.ts';

const IN = reserve(ROOM);
const OUT = reserve(ROOM);

/** How samples become whole levels: floor(sample x `scale` + `half`), held between -`scale` and `highest`. */
export interface LevelRange {
  readonly scale: number;
  readonly highest: number;
  /** Added before a level is cut off to a whole one. */
  readonly half: number;
  /** What is above flattens, and what is half a level below the range. */
  readonly most: number;
}

/** Samples as levels; gives how many of them flatten. */
export function round(samples: Float32Array, range: LevelRange, out: Int32Array): number {
  const kernel = sharedMemory();
  if (!kernel) return roundTwin(samples, range, out);
  const { scale, half, highest, most } = range;
  let outside = 0;
  inPieces(samples.length, (at, length) => {
    const place = placeOf(kernel, samples.subarray(at, at + length), IN, true);
    outside += kernel.run.round(place, OUT, length, scale, half, highest, most);
    out.set(kernel.integers.subarray(OUT / FLOAT, OUT / FLOAT + length), at);
  });
  return outside;
}

export function roundTwin(samples: Float32Array, range: LevelRange, out: Int32Array): number {
  const { scale, half, highest } = range;
  let outside = 0;
  for (let i = 0; i < samples.length; i++) {
    const exact = samples[i] * scale;
    if (flattens(exact, range)) outside++;
    out[i] = Math.max(-scale, Math.min(highest, Math.floor(exact + half)));
  }
  return outside;
}

/** The lowest and the highest of some levels; of none, the other way round. */
export function span(levels: Int32Array): readonly [lowest: number, highest: number] {
  const kernel = sharedMemory();
  if (!kernel) return spanTwin(levels);
  let found = spanTwin(levels.subarray(levels.length - (levels.length % LANES)));
  inPieces(levels.length - (levels.length % LANES), (at, length) => {
    kernel.integers.set(levels.subarray(at, at + length), IN / FLOAT);
    kernel.run.span(IN, length, OUT);
    const lanes = kernel.integers.subarray(OUT / FLOAT, OUT / FLOAT + 2 * LANES);
    found = [Math.min(found[0], ...lanes.subarray(0, LANES)), Math.max(found[1], ...lanes.subarray(LANES))];
  });
  return found;
}

export function spanTwin(levels: Int32Array): readonly [lowest: number, highest: number] {
  let [lowest, highest] = [2 ** 31 - 1, -(2 ** 31)];
  for (let i = 0; i < levels.length; i++) {
    if (levels[i] < lowest) lowest = levels[i];
    if (levels[i] > highest) highest = levels[i];
  }
  return [lowest, highest];
}

/** Whether a sample, in levels, lies outside. */
export const flattens = (exact: number, { scale, most }: LevelRange): boolean => exact > most || exact < -scale - 0.5;

const BYTES = 256;
const LEVELS = 65_536;

/** Decodes bytes of which each stands for a sample. */
export type ByteDecoder = (bytes: Uint8Array, out: Float32Array) => void;

/** @param table what each of 256 bytes stands for */
export function byteDecoder(table: Float32Array): ByteDecoder {
  const place = reserve(BYTES * FLOAT);
  return (bytes, out) => {
    const kernel = sharedMemory();
    if (!kernel) {
      for (let i = 0; i < out.length; i++) out[i] = table[bytes[i]];
      return;
    }
    kernel.floats.set(table, place / FLOAT);
    inPieces(out.length, (at, length) => {
      kernel.bytes.set(bytes.subarray(at, at + length), IN);
      kernel.run.decodeBytes(IN, place, OUT, length);
      out.set(made(kernel, OUT, length), at);
    });
  };
}

/** Encodes levels of 16 bits as one byte each. */
export type ByteEncoder = (levels: Int32Array, out: Uint8Array) => void;

/** @param table the byte of each of 65 536 levels, -32 768 first */
export function byteEncoder(table: Uint8Array): ByteEncoder {
  const place = reserve(LEVELS);
  let isThere = false;
  return (levels, out) => {
    const kernel = sharedMemory();
    if (!kernel) {
      for (let i = 0; i < out.length; i++) out[i] = table[levels[i] + LEVELS / 2];
      return;
    }
    if (!isThere) kernel.bytes.set(table, place);
    isThere = true;
    inPieces(out.length, (at, length) => {
      kernel.integers.set(levels.subarray(at, at + length), IN / FLOAT);
      kernel.run.encodeBytes(IN, place, OUT, length);
      out.set(kernel.bytes.subarray(OUT, OUT + length), at);
    });
  };
}
