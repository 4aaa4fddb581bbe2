import { BitWriter } from './bits.ts';
import { crc8, crc16 } from './check-sums.ts';
import { bestPredictor, fixedResiduals, linearResidual, type Predictor } from './prediction.ts';
import { planRice, type RicePlan, writeRice } from './rice.ts';

/** What the frames of one stream have in common. */
export interface FrameFormat {
  /** Hz. */
  readonly sampleRate: number;
  /** 1 to 8. */
  readonly channels: number;
  /** 4 to 24. */
  readonly bits: number;
}

/** Frames of sound in every frame of a stream but the last, which may be shorter. */
export const BLOCK_FRAMES = 4096;

/** How one channel of a block is stored (RFC 9639, 9.2). */
type Subframe = { readonly wasted: number; readonly width: number; readonly bits: number } & (
  | { readonly kind: 'constant'; readonly value: number }
  | { readonly kind: 'verbatim'; readonly samples: Int32Array }
  | {
      readonly kind: 'predicted';
      readonly samples: Int32Array;
      readonly order: number;
      /** Null for the fixed one of this order. */
      readonly predictor: Predictor | null;
      readonly residual: Int32Array;
      readonly rice: RicePlan;
    }
);

/** Zero, type, and the mark of wasted bits. */
const HEADER_BITS = 8;

/** Low bits that are 0 in every sample. */
function wastedBits(samples: Int32Array): number {
  let all = 0;
  for (let i = 0; i < samples.length; i++) all |= samples[i];
  return all === 0 ? 0 : 31 - Math.clz32(all & -all);
}

function isConstant(samples: Int32Array): boolean {
  for (let i = 1; i < samples.length; i++) if (samples[i] !== samples[0]) return false;
  return true;
}

/** The shortest form of one channel. */
function plan(samples: Int32Array, bits: number): Subframe {
  const wasted = wastedBits(samples);
  const values = wasted ? samples.map((value) => value >> wasted) : samples;
  const width = bits - wasted;
  const common = { wasted, width };
  const head = HEADER_BITS + wasted;
  if (isConstant(values)) {
    return { ...common, kind: 'constant', value: values[0], bits: head + width };
  }
  let best: Subframe = { ...common, kind: 'verbatim', samples: values, bits: head + width * values.length };
  const consider = (order: number, predictor: Predictor | null, residual: Int32Array) => {
    const rice = planRice(residual, order);
    const own = predictor ? 4 + 5 + order * predictor.precision : 0;
    const total = head + order * width + own + rice.bits;
    if (total < best.bits) {
      best = { ...common, kind: 'predicted', samples: values, order, predictor, residual, rice, bits: total };
    }
  };
  const fixed = fixedResiduals(values);
  const order = leastSum(fixed);
  consider(order, null, fixed[order]);
  const predictor = bestPredictor(values, width);
  const residual = predictor && linearResidual(values, predictor);
  if (predictor && residual) consider(predictor.coefficients.length, predictor, residual);
  return best;
}

/** The order whose residuals are the smallest. */
function leastSum(residuals: readonly Int32Array[]): number {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  residuals.forEach((residual, order) => {
    let sum = 0;
    for (let i = residuals.length - 1; i < residual.length; i++) sum += Math.abs(residual[i]);
    if (sum >= least) return;
    least = sum;
    best = order;
  });
  return best;
}

function writeSubframe(out: BitWriter, subframe: Subframe): void {
  const { wasted, width } = subframe;
  const type =
    subframe.kind === 'constant'
      ? 0
      : subframe.kind === 'verbatim'
        ? 1
        : subframe.predictor
          ? 0b100000 | (subframe.order - 1)
          : 0b001000 | subframe.order;
  out.put(type, 7);
  out.put(wasted ? 1 : 0, 1);
  if (wasted) out.putUnary(wasted - 1);
  if (subframe.kind === 'constant') {
    out.put(subframe.value, width);
    return;
  }
  const { samples } = subframe;
  const asTheyAre = subframe.kind === 'verbatim' ? samples.length : subframe.order;
  for (let i = 0; i < asTheyAre; i++) out.put(samples[i], width);
  if (subframe.kind === 'verbatim') return;
  const { predictor, residual, order, rice } = subframe;
  if (predictor) {
    out.put(predictor.precision - 1, 4);
    out.put(predictor.shift, 5);
    for (const coefficient of predictor.coefficients) out.put(coefficient, predictor.precision);
  }
  writeRice(out, residual, order, rice);
}

/** Ways to store two channels (RFC 9639, table 19): the code, and which of left, right, mid and side are stored. */
const PAIRS = [
  { code: 1, first: 'left', second: 'right' },
  { code: 8, first: 'left', second: 'side' },
  { code: 9, first: 'side', second: 'right' },
  { code: 10, first: 'mid', second: 'side' },
] as const;

function planChannels(channels: readonly Int32Array[], bits: number): { code: number; subframes: Subframe[] } {
  const [left, right] = channels;
  if (channels.length !== 2) {
    return { code: channels.length - 1, subframes: channels.map((samples) => plan(samples, bits)) };
  }
  const mid = new Int32Array(left.length);
  const side = new Int32Array(left.length);
  for (let i = 0; i < mid.length; i++) {
    mid[i] = (left[i] + right[i]) >> 1;
    side[i] = left[i] - right[i];
  }
  const parts = {
    left: plan(left, bits),
    right: plan(right, bits),
    mid: plan(mid, bits),
    side: plan(side, bits + 1),
  };
  const size = ({ first, second }: (typeof PAIRS)[number]) => parts[first].bits + parts[second].bits;
  const { code, first, second } = PAIRS.reduce((best, pair) => (size(pair) < size(best) ? pair : best));
  return { code, subframes: [parts[first], parts[second]] };
}

/** Rates with a code of their own (RFC 9639, table 16). */
const RATE_CODES: Readonly<Record<number, number>> = {
  88200: 1,
  176400: 2,
  192000: 3,
  8000: 4,
  16000: 5,
  22050: 6,
  24000: 7,
  32000: 8,
  44100: 9,
  48000: 10,
  96000: 11,
};

/** The code of a rate, and what of it stands at the header's end: its value and bits. 0: as the stream's description says. */
function rateCode(sampleRate: number): { code: number; value: number; bits: number } {
  const known = RATE_CODES[sampleRate];
  if (known) return { code: known, value: 0, bits: 0 };
  if (sampleRate % 1000 === 0 && sampleRate < 256_000) return { code: 12, value: sampleRate / 1000, bits: 8 };
  if (sampleRate < 65_536) return { code: 13, value: sampleRate, bits: 16 };
  if (sampleRate % 10 === 0 && sampleRate < 655_360) return { code: 14, value: sampleRate / 10, bits: 16 };
  return { code: 0, value: 0, bits: 0 };
}

/** Depths with a code of their own (RFC 9639, table 20); 0: as the stream's description says. */
const DEPTH_CODES: Readonly<Record<number, number>> = { 8: 1, 12: 2, 16: 4, 20: 5, 24: 6 };

/** A number of up to 31 bits as UTF-8 codes it (RFC 9639, 9.1.5). */
function codedNumber(value: number): number[] {
  if (value < 0x80) return [value];
  const tail: number[] = [];
  let rest = value;
  // The first byte holds 6 bits less one for each byte after it.
  while (rest >= 2 ** (6 - tail.length)) {
    tail.unshift(0x80 | (rest & 63));
    rest = Math.floor(rest / 64);
  }
  const marks = (0xff << (7 - tail.length)) & 0xff;
  return [marks | rest, ...tail];
}

/**
 * One frame of a stream whose blocks all have `BLOCK_FRAMES`, but for the last (RFC 9639, 9).
 * @param number of the frame, from 0
 * @param channels whole numbers of the format's bits, 1 to `BLOCK_FRAMES` of each channel
 */
export function encodeFrame(format: FrameFormat, number: number, channels: readonly Int32Array[]): Uint8Array {
  const { sampleRate, bits } = format;
  const { length } = channels[0];
  const { code, subframes } = planChannels(channels, bits);
  const rate = rateCode(sampleRate);
  const out = new BitWriter(64 + Math.ceil(subframes.reduce((sum, subframe) => sum + subframe.bits, 0) / 8));
  const isUsual = length === BLOCK_FRAMES;
  out.put(0xfff8, 16);
  out.put(isUsual ? 12 : 7, 4);
  out.put(rate.code, 4);
  out.put(code, 4);
  out.put(DEPTH_CODES[bits] ?? 0, 3);
  out.put(0, 1);
  for (const byte of codedNumber(number)) out.put(byte, 8);
  if (!isUsual) out.put(length - 1, 16);
  out.put(rate.value, rate.bits);
  out.put(crc8(out.written()), 8);
  for (const subframe of subframes) writeSubframe(out, subframe);
  out.align();
  out.put(crc16(out.written()), 16);
  return out.written();
}
