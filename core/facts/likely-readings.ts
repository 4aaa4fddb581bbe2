import { deinterleave, driftIn } from '../audio/index.ts';
import type { ByteFile } from '../bytes/index.ts';
import type { Reading } from '../containers/index.ts';
import {
  type BlockLayout,
  blockEncodings,
  codecOf,
  encodings,
  layoutOf,
  type PlainEncoding,
} from '../encodings/index.ts';
import { formatCount, formatLevel } from '../words/index.ts';

/**
 * What headerless bytes may be. Each reading is judged by how few bits would be needed to write the bytes down if it were
 * the right one: real sound is smooth, so that each sample is nearly told by those before it; bytes read wrongly look like
 * noise, and noise cannot be written shorter (minimum description length; the predictors are those of RFC 9639,
 * section 9.2.5, the cost of a residual that of a Laplace distribution).
 */
export interface LikelyReading {
  readonly reading: Reading;
  /** Bits that the reading would need for one byte of the file, 0..8: the fewer, the likelier. */
  readonly bitsPerByte: number;
  /** One sentence: what speaks for it and against it. */
  readonly why: string;
}

/** Encodings that may be found without a header. */
const allEncodings = (): readonly PlainEncoding[] => [...encodings, ...blockEncodings];

/** The bytes are looked at in so many pieces of so many bytes; 24 divides by every size of frame up to stereo. */
const PIECES = 8;
const PIECE_BYTES = 24 * 256;

/** Samples of one channel that share a predictor and a spread. */
const BLOCK = 64;

/** Bits that the choice of predictor and spread costs in each block. */
const BLOCK_COST = 6;

/** Sizes that devices like, as frames that the length divides by (common practice, no source). */
const KNOWN_BLOCKS = [240, 160, 512];

interface ReadingScore {
  bits: number;
  samples: number;
  /** Of the block of the least and the most predictable channel: noise has none that is predictable. */
  readonly channelBits: number[];
  sum: number;
  square: number;
  peak: number;
  repeats: number;
  /** Samples whose level does not tell the code: cut to the range. */
  cut: number;
  /** Of blocks and streams: of the channel that wanders most, 0..1. */
  drift: number;
  pairs: number;
  isImpossible: boolean;
}

/**
 * Bits for one channel's block: the best of three predictors, the residuals' own spread.
 * @param spacing from one level to the next: everywhere, or at each sample; 0 if the level does not tell the code
 * @param most bits that one sample takes
 */
function blockBits(
  samples: Float32Array,
  from: number,
  to: number,
  spacing: number | Float32Array,
  most: number,
): number {
  let before = samples[from - 1] ?? 0;
  let slope = before - (samples[from - 2] ?? 0);
  let [plain, first, second] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const value = samples[i];
    const step = value - before;
    plain += Math.abs(value);
    first += Math.abs(step);
    second += Math.abs(step - slope);
    before = value;
    slope = step;
  }
  // Twice e times the mean magnitude, in steps, is what the entropy of a Laplace distribution comes to.
  const spread = (2 * Math.E * Math.min(plain, first, second)) / (to - from);
  if (typeof spacing === 'number') return BLOCK_COST + (to - from) * Math.log2(1 + spread / spacing);
  let bits = BLOCK_COST;
  for (let i = from; i < to; i++) bits += spacing[i] > 0 ? Math.log2(1 + spread / spacing[i]) : most;
  return bits;
}

function judge(encoding: PlainEncoding, channels: number, pieces: readonly SamplePiece[]): ReadingScore {
  const even = 2 ** (1 - encoding.bitDepth);
  const judged: ReadingScore = {
    bits: 0,
    samples: 0,
    channelBits: new Array<number>(channels).fill(0),
    sum: 0,
    square: 0,
    peak: 0,
    repeats: 0,
    cut: 0,
    drift: 0,
    pairs: 0,
    isImpossible: false,
  };
  for (const piece of pieces) {
    const sound = deinterleave(piece.samples, channels);
    const spacing = piece.spacing && deinterleave(piece.spacing, channels);
    for (const levels of spacing ?? [])
      judged.cut += levels.reduce((sum, distance) => (distance > 0 ? sum : sum + 1), 0);
    sound.forEach((samples, channel) => {
      for (let i = 0; i < samples.length; i++) {
        const value = samples[i];
        judged.sum += value;
        judged.square += value * value;
        judged.peak = Math.max(judged.peak, Math.abs(value));
      }
      judged.samples += samples.length;
      if (encoding.kind === 'block') judged.drift = Math.max(judged.drift, driftIn(samples, FASTEST));
      for (let from = 0; from < samples.length; from += BLOCK) {
        const bits = blockBits(
          samples,
          from,
          Math.min(samples.length, from + BLOCK),
          spacing?.[channel] ?? even,
          encoding.bitDepth,
        );
        judged.bits += bits;
        judged.channelBits[channel] = (judged.channelBits[channel] ?? 0) + bits;
      }
    });
    const [only] = sound;
    if (only && channels === 1) {
      for (let i = 0; i + 1 < only.length; i += 2) {
        if (only[i] === only[i - 1] && only[i] === only[i + 1]) continue;
        judged.pairs++;
        if (only[i] === only[i + 1]) judged.repeats++;
      }
    }
  }
  // Numbers far beyond full scale, or nothing but tiny ones, are no floating-point sound.
  judged.isImpossible = encoding.kind === 'float' && !(judged.peak > 1e-5 && judged.peak <= 16);
  return judged;
}

function piecesOf(file: ByteFile, skip: number): Uint8Array[] {
  const size = Math.max(0, file.size - skip);
  if (size <= PIECES * PIECE_BYTES) return size > 0 ? [file.read(skip, file.size)] : [];
  return placesIn(size).map((at) => file.read(skip + at, skip + at + PIECE_BYTES));
}

/** Where pieces begin in so many bytes, evenly spread. */
const placesIn = (size: number): number[] =>
  Array.from({ length: PIECES }, (_, i) => Math.floor((i * (size - PIECE_BYTES)) / (PIECES - 1) / 24) * 24);

/** Samples in storage order, and the distances between levels where they are not all the same. */
interface SamplePiece {
  readonly samples: Float32Array;
  readonly spacing: Float32Array | null;
}

/** Of a sound whose bytes hang on all before them so many are decoded, from the start. */
const MOST_DECODED = 8 * PIECES * PIECE_BYTES;

/** What is looked at of a file: pieces of it, and its beginning in one. */
interface Excerpt {
  readonly pieces: readonly Uint8Array[];
  readonly beginning: Uint8Array;
}

function decodedPieces(encoding: PlainEncoding, layout: BlockLayout, { pieces, beginning }: Excerpt): SamplePiece[] {
  const decoded = (bytes: Uint8Array): SamplePiece => {
    const samples = codecOf(encoding, layout).decode(bytes);
    return { samples, spacing: encoding.spacing?.(samples, bytes, layout) ?? null };
  };
  if (encoding.kind !== 'block') return pieces.map(decoded);
  const size = beginning.length;
  const { samples, spacing } = decoded(beginning);
  if (size <= PIECES * PIECE_BYTES) return [{ samples, spacing }];
  const { channels } = layout;
  const framesPerByte = samples.length / size / channels;
  return placesIn(size).map((at) => {
    const [from, to] = [at, at + PIECE_BYTES].map((place) => Math.floor(place * framesPerByte) * channels);
    return { samples: samples.subarray(from, to), spacing: spacing?.subarray(from, to) ?? null };
  });
}

/** Of the bits of a channel of noise, so many cannot be told beforehand. */
const NOISE_SHARE = 0.85;

/** Above this, in bits of each byte, there is no telling what the bytes are: noise, or packed data. */
const NOISE = 7.6;

function explain(
  encoding: PlainEncoding,
  judged: ReadingScore,
  bitsPerByte: number,
  frames: number,
  left: number,
): string {
  const { samples, sum, square, peak } = judged;
  const rms = Math.sqrt(square / Math.max(1, samples));
  const mean = Math.abs(sum / Math.max(1, samples));
  const known = KNOWN_BLOCKS.find((block) => frames % block === 0);
  const smoothness =
    bitsPerByte > NOISE ? 'like noise' : bitsPerByte > 5.5 ? 'rough' : bitsPerByte > 3.5 ? 'fairly smooth' : 'smooth';
  return [
    `${smoothness}: ${bitsPerByte.toFixed(1)} bits of information in a byte`,
    `level ${formatLevel(rms)}, peak ${formatLevel(peak)}`,
    ...(mean > 0.02 && mean > rms / 4 ? [`DC offset ${formatLevel(mean)}`] : []),
    ...(left > 0 ? [`${left} ${left === 1 ? 'byte' : 'bytes'} left over`] : []),
    ...(known && frames > 0 ? [`${formatCount(frames / known)} blocks of ${known} frames`] : []),
    ...(encoding.kind === 'float' && judged.isImpossible ? ['values that cannot be sound'] : []),
  ].join('; ');
}

/**
 * Readings of headerless bytes, the most likely first. The bytes do not tell the rate: it is the usual one.
 * @param skip bytes at the start that are not sound
 * @param among encodings that are compared; those that are not found without a header are left out
 */
export function likelyReadings(file: ByteFile, skip = 0, among = allEncodings()): LikelyReading[] {
  const size = file.size - skip;
  if (size <= 0) return [];
  const sounding = Math.min(size, PIECES * PIECE_BYTES);
  const excerpt = {
    pieces: piecesOf(file, skip),
    beginning: file.read(skip, Math.min(file.size, skip + MOST_DECODED)),
  };
  const likely = among.flatMap((encoding) => {
    if (!encoding.bare) return [];
    const { usualRate, isRare = false } = encoding.bare;
    return [1, 2].map((channels): LikelyReading & { cost: number } => {
      const layout = layoutOf(encoding, channels, usualRate);
      const { unitBytes, unitFrames } = codecOf(encoding, layout);
      const judged = judge(encoding, channels, decodedPieces(encoding, layout, excerpt));
      const left = size % unitBytes;
      const bitsPerByte = Math.min(8, judged.bits / sounding);
      // Rare kinds have to be clearly better.
      const cost = bitsPerByte + (isRare ? 0.2 : 0) + penalty(encoding, channels, judged, left);
      const why = explain(encoding, judged, bitsPerByte, Math.floor(size / unitBytes) * unitFrames, left);
      return { reading: { encoding: encoding.id, sampleRate: usualRate, channels, skip }, bitsPerByte, why, cost };
    });
  });
  return likely.sort((a, b) => a.cost - b.cost).map(({ reading, bitsPerByte, why }) => ({ reading, bitsPerByte, why }));
}

/** Hz: nothing is said of the rate, and what is slow at this one is slow at any. */
const FASTEST = 80_000;

/** So much of a sound may be slower than any tone: rumble, wind. */
const USUAL_DRIFT = 0.05;
/** What it counts, in bits of each byte, if a sound does nothing but wander. */
const MOST_DRIFT_COST = 6;
/** The same if all of it were cut to the range: an encoder hardly ever comes there. */
const CUT_COST = 50;

/** What counts against a reading beside its bits, in bits of each byte. */
function penalty(encoding: PlainEncoding, channels: number, judged: ReadingScore, left: number): number {
  const { samples, sum, square, channelBits, bits, repeats, pairs } = judged;
  const mean = Math.abs(sum / Math.max(1, samples));
  const rms = Math.sqrt(square / Math.max(1, samples));
  // The low byte of a wider sample passes for a channel of noise beside one of sound.
  const noisiest = Math.max(...channelBits);
  const isHalfNoise =
    channels > 1 && noisiest > 0.7 * bits && noisiest > (NOISE_SHARE * samples * encoding.bitDepth) / 2;
  // One channel as long as two, each sample twice, is one sound twice.
  const isTwice = channels === 1 && repeats > 0.9 * pairs && pairs > 0;
  return (
    (judged.isImpossible ? 8 : 0) +
    (left > 0 ? 0.5 : 0) +
    // Sound swings around zero.
    (rms > 0 ? Math.min(1, mean / rms) : 0) +
    (isHalfNoise ? 1.5 : 0) +
    (isTwice ? 1 : 0) +
    // A decoder whose codes tell by how much the sound goes up or down wanders off where they are not its own.
    (encoding.kind === 'block'
      ? MOST_DRIFT_COST * Math.max(0, judged.drift - USUAL_DRIFT) +
        Math.min(1, (CUT_COST * judged.cut) / Math.max(1, samples))
      : 0) +
    (channels > 1 ? 0.02 : 0)
  );
}
