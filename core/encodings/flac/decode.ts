import { BitReader } from '../bit-reader.ts';
import { type FrameHeader, frameHeader } from './header.ts';

/** Channels are stored as left and side, side and right, or mid and side (RFC 9639, table 19). */
const LEFT_SIDE = 8;
const SIDE_RIGHT = 9;
const MID_SIDE = 10;

/** Bits of a sample by code; 0: as the stream's description says (RFC 9639, table 20). */
const DEPTHS = [0, 8, 12, 0, 16, 20, 24, 32];

/** The residual of a block (RFC 9639, 9.2.7) into `out` from `order` on. */
function readResidual(bits: BitReader, out: Float64Array, order: number): void {
  const method = bits.unsigned(2);
  if (method > 1) throw new RangeError('a residual of no known kind');
  const width = method === 0 ? 4 : 5;
  const asTheyAre = 2 ** width - 1;
  const partitions = 2 ** bits.unsigned(4);
  const size = out.length / partitions;
  if (!Number.isInteger(size) || size < order) throw new RangeError('partitions that do not fit');
  for (let partition = 0; partition < partitions; partition++) {
    const parameter = bits.unsigned(width);
    const from = partition === 0 ? order : partition * size;
    const to = (partition + 1) * size;
    if (parameter === asTheyAre) {
      const raw = bits.unsigned(5);
      for (let i = from; i < to; i++) out[i] = bits.signed(raw);
      continue;
    }
    bits.rice(parameter, out, from, to);
  }
}

/** Adds what the fixed predictor of an order makes of the samples before (RFC 9639, table 22). */
function addFixed(samples: Float64Array, order: number): void {
  const { length } = samples;
  if (order === 1) for (let i = 1; i < length; i++) samples[i] += samples[i - 1];
  if (order === 2) for (let i = 2; i < length; i++) samples[i] += 2 * samples[i - 1] - samples[i - 2];
  if (order === 3) {
    for (let i = 3; i < length; i++) samples[i] += 3 * (samples[i - 1] - samples[i - 2]) + samples[i - 3];
  }
  if (order === 4) {
    for (let i = 4; i < length; i++) {
      samples[i] += 4 * (samples[i - 1] + samples[i - 3]) - 6 * samples[i - 2] - samples[i - 4];
    }
  }
}

/** Adds what a linear predictor makes of the samples before (RFC 9639, 9.2.6). */
function addLinear(samples: Float64Array, weights: Float64Array, shift: number): void {
  const order = weights.length;
  const earliestFirst = weights.toReversed();
  const scale = 2 ** -shift;
  for (let i = order; i < samples.length; i++) {
    // 33 bits by 15 bits by 5 bits of order: 53-bit numbers hold each sum exactly.
    let sum = 0;
    for (let k = 0, from = i - order; k < order; k++) sum += earliestFirst[k] * samples[from + k];
    samples[i] += Math.floor(sum * scale);
  }
}

/** One channel of a block (RFC 9639, 9.2). */
function readSubframe(bits: BitReader, frames: number, depth: number): Float64Array {
  const out = new Float64Array(frames);
  if (bits.unsigned(1) !== 0) throw new RangeError('a subframe that begins with a 1');
  const type = bits.unsigned(6);
  const wasted = bits.unsigned(1) ? bits.unary() + 1 : 0;
  const width = depth - wasted;
  if (width <= 0) throw new RangeError('no bits of a sample are left');
  const warmUp = (order: number) => {
    if (order > frames) throw new RangeError('an order above the length of the block');
    for (let i = 0; i < order; i++) out[i] = bits.signed(width);
  };
  if (type === 0) out.fill(bits.signed(width));
  else if (type === 1) warmUp(frames);
  else if (type >= 8 && type <= 12) {
    const order = type - 8;
    warmUp(order);
    readResidual(bits, out, order);
    addFixed(out, order);
  } else if (type >= 32) {
    const order = type - 31;
    warmUp(order);
    const precision = bits.unsigned(4) + 1;
    const shift = bits.signed(5);
    if (precision === 16 || shift < 0) throw new RangeError('a predictor that is not allowed');
    const weights = Float64Array.from({ length: order }, () => bits.signed(precision));
    readResidual(bits, out, order);
    addLinear(out, weights, shift);
  } else throw new RangeError('a subframe of no known kind');
  if (wasted > 0) for (let i = 0; i < frames; i++) out[i] *= 2 ** wasted;
  return out;
}

/** The two channels of a pair back to left and right, in place. */
function separate([first, second]: readonly Float64Array[], code: number): void {
  const { length } = first;
  for (let i = 0; i < length; i++) {
    const [a, b] = [first[i], second[i]];
    if (code === LEFT_SIDE) second[i] = a - b;
    else if (code === SIDE_RIGHT) first[i] = a + b;
    else {
      // The lowest bit of the sum is that of the difference, so it was left out.
      const sum = 2 * a + (b % 2 === 0 ? 0 : 1);
      first[i] = (sum + b) / 2;
      second[i] = (sum - b) / 2;
    }
  }
}

/**
 * Decodes one frame whose checksum was found right (`splitFrames`).
 * @param bytes the whole frame
 * @param streamBits bits of a sample as the stream's description states them, for frames that do not
 * @returns samples of each channel from -1 to 1, to the last bit where they have up to 24
 * @throws RangeError if the bits are no frame
 */
export function decodeFrame(bytes: Uint8Array, streamBits: number): Float32Array<ArrayBuffer>[] {
  const header: FrameHeader | null = frameHeader(bytes, 0);
  if (!header) throw new RangeError('there is no header here');
  const code = bytes[3] >> 4;
  const depth = DEPTHS[(bytes[3] >> 1) & 7] || streamBits;
  const bits = new BitReader(bytes, header.bytes);
  const isSide = (channel: number) =>
    (channel === 0 && code === SIDE_RIGHT) || (channel === 1 && (code === LEFT_SIDE || code === MID_SIDE));
  const channels = Array.from({ length: header.channels }, (_, channel) =>
    readSubframe(bits, header.frames, isSide(channel) ? depth + 1 : depth),
  );
  if (code >= LEFT_SIDE) separate(channels, code);
  const scale = 2 ** (1 - depth);
  return channels.map((samples) => {
    const out = new Float32Array(samples.length);
    for (let i = 0; i < out.length; i++) out[i] = samples[i] * scale;
    return out;
  });
}
