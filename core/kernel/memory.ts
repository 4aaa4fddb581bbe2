import { kernelInstance, kernelModule } from './module.ts';

/** Frames that the kernels of this memory take at a time; a multiple of four. */
export const PIECE = 16_384;
export const LANES = 4;
export const FLOAT = Float32Array.BYTES_PER_ELEMENT;

/** All that is reserved has to fit. */
const BYTES = 2 ** 21;

let reserved = 0;

/** A place of so many bytes, for as long as the program runs. What is in it holds from one call to the next of its owner. */
export function reserve(bytes: number): number {
  const at = reserved;
  reserved += 16 * Math.ceil(bytes / 16);
  if (reserved > BYTES) throw new RangeError(`the kernels have ${BYTES} bytes, not ${reserved}`);
  return at;
}

export interface Memory {
  readonly run: Readonly<Record<string, (...args: number[]) => number>>;
  readonly bytes: Uint8Array;
  readonly floats: Float32Array;
  readonly doubles: Float64Array;
  readonly words: Uint32Array;
  readonly integers: Int32Array;
}

let memory: Memory | null | undefined;

function start(): Memory | null {
  const compiled = kernelModule();
  if (!compiled) return null;
  const exports = kernelInstance(compiled, BYTES);
  const { buffer } = exports.memory as WebAssembly.Memory;
  return {
    run: exports as unknown as Memory['run'],
    bytes: new Uint8Array(buffer),
    floats: new Float32Array(buffer),
    doubles: new Float64Array(buffer),
    words: new Uint32Array(buffer),
    integers: new Int32Array(buffer),
  };
}

/** One instance for all kernels that look at samples. Null if there is no SIMD. */
export function sharedMemory(): Memory | null {
  if (memory === undefined) memory = start();
  return memory;
}

/** Room for a piece of samples, and to fill up four. */
export const ROOM = (PIECE + LANES) * FLOAT;

/**
 * Place of `samples` for the kernels: where they are, if that is in the memory, or at `scratch`, which has `ROOM`. There zeros
 * follow, and where their number is no multiple of four they are always brought there, if `filled` is asked for.
 */
export function placeOf({ floats }: Memory, samples: Float32Array, scratch: number, filled = false): number {
  const isThere = samples.buffer === floats.buffer;
  if (isThere && (!filled || samples.length % LANES === 0)) return samples.byteOffset;
  const at = scratch / FLOAT;
  floats.set(samples, at);
  floats.fill(0, at + samples.length, at + samples.length + LANES);
  return scratch;
}

/** Calls `use` with ranges of at most `PIECE` of `count` frames. */
export function inPieces(count: number, use: (at: number, length: number) => void): void {
  for (let at = 0; at < count; at += PIECE) use(at, Math.min(PIECE, count - at));
}

/** The samples that a kernel wrote at `place`: a view, valid until the next kernel runs. */
export const made = ({ floats }: Memory, place: number, length: number): Float32Array =>
  floats.subarray(place / FLOAT, place / FLOAT + length);

/** Channels that are staged; of more, each kernel brings its own in. */
const MOST_STAGED = 8;
const STAGE = reserve(MOST_STAGED * ROOM);

/**
 * Calls `use` with pieces of at most `PIECE` frames of all channels, in the memory of the kernels where that is possible, so
 * that several of them look at the same samples without bringing them in each time.
 */
export function inStages(channels: readonly Float32Array[], use: (piece: readonly Float32Array[]) => void): void {
  const frames = channels[0]?.length ?? 0;
  const shared = channels.length <= MOST_STAGED ? sharedMemory() : null;
  for (let at = 0; at < frames; at += PIECE) {
    const piece = channels.map((samples) => samples.subarray(at, at + PIECE));
    use(
      shared
        ? piece.map((samples, channel) => {
            const place = (STAGE + channel * ROOM) / FLOAT;
            shared.floats.set(samples, place);
            return shared.floats.subarray(place, place + samples.length);
          })
        : piece,
    );
  }
}
