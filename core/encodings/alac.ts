import { viewOf } from '../bytes/index.ts';
import { BitReader } from './bit-reader.ts';

/** What the description of an ALAC stream states (its "magic cookie"; layout from memory). */
export interface AlacInfo {
  /** Frames of a packet; the last one may have fewer. */
  readonly packetFrames: number;
  readonly bitDepth: number;
  readonly channels: number;
  /** Hz. */
  readonly sampleRate: number;
  /** How residuals are coded: the mean at the start, how fast it follows, and the longest remainder in bits. */
  readonly startMean: number;
  readonly pace: number;
  readonly mostBits: number;
}

const INFO_BYTES = 24;

/** Encoders make packets of 4 096 frames; a description that claims many more is damaged. */
const MOST_FRAMES = 65_536;
const DEPTHS = [16, 20, 24, 32];
const MOST_CHANNELS = 8;

/**
 * Reads a description. Containers put a version and flags, or a whole box, in front of it.
 * @throws RangeError if it is none, or claims what no encoder writes
 */
export function alacInfo(description: Uint8Array): AlacInfo {
  if (description.length < INFO_BYTES) throw new RangeError('the ALAC description is too short');
  const view = viewOf(description.subarray(description.length - INFO_BYTES));
  const info = {
    packetFrames: view.getUint32(0),
    bitDepth: view.getUint8(5),
    channels: view.getUint8(9),
    sampleRate: view.getUint32(20),
    startMean: view.getUint8(7),
    pace: view.getUint8(6),
    mostBits: view.getUint8(8),
  };
  const { packetFrames, bitDepth, channels, mostBits } = info;
  const isPossible =
    packetFrames > 0 &&
    packetFrames <= MOST_FRAMES &&
    DEPTHS.includes(bitDepth) &&
    channels > 0 &&
    channels <= MOST_CHANNELS &&
    mostBits > 0 &&
    mostBits <= 16;
  if (!isPossible) throw new RangeError('the ALAC description claims something impossible');
  return info;
}

/** Kinds of elements in a packet. Others hold no sound that anybody writes. */
const ONE_CHANNEL = 0;
const TWO_CHANNELS = 1;
const LOW_FREQUENCIES = 3;
const DATA = 4;
const FILLING = 6;
const END = 7;

/**
 * Decodes a packet, which stands on its own: channels in ALAC's own order, whole numbers of the stated depth.
 * @throws RangeError if it is damaged
 */
export function decodeAlacPacket(packet: Uint8Array, info: AlacInfo): Int32Array[] {
  const bits = new BitReader(packet, 0);
  const channels: Int32Array[] = [];
  while (channels.length < info.channels) {
    const kind = bits.unsigned(3);
    if (kind === ONE_CHANNEL || kind === LOW_FREQUENCIES) channels.push(...readElement(bits, info, 1));
    else if (kind === TWO_CHANNELS) channels.push(...readElement(bits, info, 2));
    else if (kind === FILLING) skipFilling(bits);
    else if (kind === DATA) skipData(bits);
    else throw new RangeError(kind === END ? 'an ALAC packet lacks channels' : 'an ALAC packet is of no known kind');
  }
  const frames = channels[0]?.length ?? 0;
  if (channels.length > info.channels || channels.some(({ length }) => length !== frames)) {
    throw new RangeError('the channels of an ALAC packet do not match');
  }
  return channels;
}

function skipFilling(bits: BitReader): void {
  const count = bits.unsigned(4);
  bits.skip(8 * (count === 15 ? 14 + bits.unsigned(8) : count));
}

function skipData(bits: BitReader): void {
  bits.skip(4);
  const isAligned = bits.unsigned(1) === 1;
  const count = bits.unsigned(8);
  const bytes = count === 255 ? 255 + bits.unsigned(8) : count;
  if (isAligned) bits.align();
  bits.skip(8 * bytes);
}

/** How a channel is predicted from its own past. */
interface Predictor {
  /** 0, or more for a first difference that was taken before. */
  readonly mode: number;
  /** Sums are divided by 2 to this power. */
  readonly shift: number;
  /** Changes the pace at which the mean of residuals follows, in quarters. */
  readonly paceQuarters: number;
  readonly factors: Int16Array;
}

function readPredictor(bits: BitReader): Predictor {
  const mode = bits.unsigned(4);
  const shift = bits.unsigned(4);
  const paceQuarters = bits.unsigned(3);
  const factors = new Int16Array(bits.unsigned(5));
  for (let i = 0; i < factors.length; i++) factors[i] = bits.signed(16);
  return { mode, shift, paceQuarters, factors };
}

/** As many factors announce plain differences. */
const DIFFERENCES = 31;

/** One channel, or two that were coded together. */
function readElement(bits: BitReader, info: AlacInfo, count: 1 | 2): Int32Array[] {
  bits.skip(4);
  if (bits.unsigned(12) !== 0) throw new RangeError('an ALAC element begins with an unknown header');
  const isPartial = bits.unsigned(1) === 1;
  const lowBits = 8 * bits.unsigned(2);
  const isPlain = bits.unsigned(1) === 1;
  const frames = isPartial ? bits.unsigned(32) : info.packetFrames;
  if (frames > info.packetFrames) throw new RangeError('an ALAC packet claims to be longer than the longest possible');
  if (isPlain) return readPlain(bits, info.bitDepth, frames, count);

  const depth = info.bitDepth - lowBits + (count === 2 ? 1 : 0);
  if (lowBits > 16 || depth < 1 || depth > 32) throw new RangeError('an ALAC element states an impossible depth');
  const mixShift = bits.unsigned(8);
  const mixWeight = bits.signed(8);
  const predictors = Array.from({ length: count }, () => readPredictor(bits));
  // The low bits of deep samples stand by themselves, in front.
  const low = bits.fork();
  bits.skip(lowBits * frames * count);
  const channels = predictors.map((predictor) => {
    const samples = readResidual(bits, info, predictor, frames, depth);
    if (predictor.mode > 0) integrate(samples, depth);
    if (predictor.factors.length === DIFFERENCES) integrate(samples, depth);
    else predict(samples, predictor, depth);
    return samples;
  });
  const [first, second] = channels;
  if (second && mixWeight !== 0) unmix(first, second, mixWeight, mixShift);
  if (lowBits > 0) {
    for (let i = 0; i < frames; i++)
      for (const samples of channels) samples[i] = (samples[i] << lowBits) | low.unsigned(lowBits);
  }
  return channels;
}

function readPlain(bits: BitReader, depth: number, frames: number, count: number): Int32Array[] {
  const channels = Array.from({ length: count }, () => new Int32Array(frames));
  for (let i = 0; i < frames; i++) for (const samples of channels) samples[i] = bits.signed(depth);
  return channels;
}

/** Sum and difference become left and right. */
function unmix(first: Int32Array, second: Int32Array, weight: number, shift: number): void {
  for (let i = 0; i < first.length; i++) {
    const left = first[i] + second[i] - (Math.imul(weight, second[i]) >> shift);
    second[i] = left - second[i];
    first[i] = left;
  }
}

/** Fractional bits of the mean of residuals. */
const MEAN_SHIFT = 9;
/** From so many ones on a number stands as it is, in all its bits. */
const MOST_ONES = 9;
/** A mean below this (with its fraction) announces how many zeros follow. */
const QUIET_MEAN = 128;
const LONGEST_RUN = 0xffff;

/** A number in Golomb's way: a count of ones, and a remainder whose zero takes one bit less. */
function golomb(bits: BitReader, width: number, factor: number, wholeBits: number): number {
  const ones = bits.ones(MOST_ONES);
  if (ones === MOST_ONES) return bits.unsigned(wholeBits);
  const high = bits.unsigned(width - 1);
  return ones * factor + (high === 0 ? 0 : 2 * high + bits.unsigned(1) - 1);
}

/** What prediction left over, in codes whose width follows its mean. */
function readResidual(
  bits: BitReader,
  { startMean, pace, mostBits }: AlacInfo,
  { paceQuarters }: Predictor,
  frames: number,
  depth: number,
): Int32Array {
  const out = new Int32Array(frames);
  const follow = (pace * paceQuarters) >> 2;
  let mean = startMean;
  // After a run of zeros a value is none itself, so codes begin with one.
  let least = 0;
  for (let i = 0; i < frames; ) {
    const width = Math.min(31 - Math.clz32((mean >> MEAN_SHIFT) + 3), mostBits);
    const value = golomb(bits, width, 2 ** width - 1, depth);
    const code = value + least;
    out[i++] = code & 1 ? -((code + 1) >>> 1) : code >>> 1;
    mean = value > LONGEST_RUN ? LONGEST_RUN : follow * code + mean - ((follow * mean) >> MEAN_SHIFT);
    least = 0;
    if (mean >= QUIET_MEAN || i >= frames) continue;
    const runWidth = Math.clz32(mean) - 24 + ((mean + 16) >> 6);
    const run = golomb(bits, runWidth, (2 ** runWidth - 1) & (2 ** mostBits - 1), 16);
    if (i + run > frames) throw new RangeError('a run of zeros goes beyond its packet');
    i += run;
    mean = 0;
    least = run < LONGEST_RUN ? 1 : 0;
  }
  return out;
}

/** Differences become their sums, of so many bits. */
function integrate(samples: Int32Array, depth: number): void {
  const unused = 32 - depth;
  for (let i = 1; i < samples.length; i++) samples[i] = ((samples[i] + samples[i - 1]) << unused) >> unused;
}

/** Turns residuals into samples: each is told from those before it by factors that learn from the sign of the error. */
function predict(samples: Int32Array, { factors, shift }: Predictor, depth: number): void {
  const order = factors.length;
  if (order === 0) return;
  const unused = 32 - depth;
  const half = shift > 0 ? 1 << (shift - 1) : 0;
  for (let i = 1; i <= Math.min(order, samples.length - 1); i++) {
    samples[i] = ((samples[i] + samples[i - 1]) << unused) >> unused;
  }
  for (let i = order + 1; i < samples.length; i++) {
    const base = samples[i - order - 1];
    let sum = half;
    for (let k = 0; k < order; k++) sum = (sum + Math.imul(factors[k], samples[i - 1 - k] - base)) | 0;
    const error = samples[i];
    samples[i] = ((error + base + (sum >> shift)) << unused) >> unused;
    // The farthest factor learns first, as long as there is error left to explain.
    const sign = Math.sign(error);
    let left = error;
    for (let k = order - 1; k >= 0 && left * sign > 0; k--) {
      const distance = base - samples[i - 1 - k];
      const turn = Math.sign(distance) * sign;
      factors[k] -= turn;
      left -= (order - k) * (Math.imul(turn, distance) >> shift);
    }
  }
}
