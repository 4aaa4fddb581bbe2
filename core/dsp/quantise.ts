import { flattens, type LevelRange, round } from '../kernel/whole-numbers.ts';
import { noiseShaping } from './noise-shaping.ts';

/**
 * Noise that is added before rounding, so that the error no longer follows the sound: `rectangular` is one level wide,
 * `triangular` two, `shaped` is triangular with the error fed back to where the ear hears it less.
 */
export const DITHERS = ['none', 'rectangular', 'triangular', 'shaped'] as const;
export type Dither = (typeof DITHERS)[number];

/** `nearest` rounds halves upward; `down` drops what is below a level, as cutting off the low bits does. */
export const ROUNDINGS = ['nearest', 'down'] as const;
export type Rounding = (typeof ROUNDINGS)[number];

/** Repeatable random numbers in [0, 1): a 32-bit linear congruential state with a mixed output (mulberry32 form). */
export function seededRandom(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

export interface QuantiserOptions {
  /** 1 to 32. One bit keeps the sign alone: -1 or 0. */
  readonly bits: number;
  readonly dither: Dither;
  readonly rounding?: Rounding;
  /** Same seed, same noise. */
  readonly seed?: number;
  /** True: no noise is added to digital silence, and what the error feedback still holds is dropped. */
  readonly blanks?: boolean;
  /** Hz; only `shaped` dither looks at it. */
  readonly sampleRate?: number;
}

/** So many frames of digital silence in a row, and the noise stops. */
const BLANK_AFTER = 32;

interface ChannelState {
  readonly random: () => number;
  /** Latest errors in levels, newest first. */
  readonly errors: Float64Array;
  silentFrames: number;
}

/**
 * Rounds nominal -1..1 to signed integers, block by block: value x 2^(bits - 1), held in range. Triangular dither is the
 * difference of two uniform numbers (variance 1/6 level squared), one stream for each channel, seeded with `seed` +
 * channel: same input, same seed, same integers.
 */
export class Quantiser {
  private readonly options: Required<QuantiserOptions>;
  private readonly shaping: readonly number[];
  private readonly range: LevelRange;
  private readonly states: ChannelState[] = [];
  private readonly rooms: Int32Array[] = [];
  /** Frames in which the sound exceeded full scale before dither: what flattens. */
  clippedFrames = 0;

  constructor({ rounding = 'nearest', seed = 1, blanks = true, sampleRate = 44_100, ...rest }: QuantiserOptions) {
    this.options = { rounding, seed, blanks, sampleRate, ...rest };
    this.shaping = rest.dither === 'shaped' ? noiseShaping(sampleRate) : [];
    const scale = 2 ** (rest.bits - 1);
    this.range = {
      scale,
      highest: scale - 1,
      // One bit has no level for silence: the sign is what is kept.
      half: rounding === 'nearest' && rest.bits > 1 ? 0.5 : 0,
      most: scale - (rest.bits > 1 ? 0.5 : 0),
    };
  }

  /** The levels are valid until the next are asked for. */
  push(channels: readonly Float32Array[]): Int32Array[] {
    const frames = channels[0]?.length ?? 0;
    const out = channels.map((_, channel) => this.roomFor(channel, frames));
    const isPlain = this.options.dither === 'none' && this.shaping.length === 0;
    let outside = 0;
    channels.forEach((samples, channel) => {
      // What is kept of one frame to the next does not matter where nothing is added: the same levels, sooner.
      outside += isPlain ? round(samples, this.range, out[channel]) : this.pushChannel(samples, channel, out[channel]);
    });
    // Frames are looked at one by one only where some of these flatten at all.
    if (outside > 0) {
      for (let i = 0; i < frames; i++) {
        if (channels.some((samples) => flattens(samples[i] * this.range.scale, this.range))) this.clippedFrames++;
      }
    }
    return out;
  }

  private roomFor(channel: number, frames: number): Int32Array {
    if ((this.rooms[channel]?.length ?? -1) < frames) this.rooms[channel] = new Int32Array(frames);
    return this.rooms[channel].subarray(0, frames);
  }

  /** Gives how many samples flatten. */
  private pushChannel(samples: Float32Array, channel: number, out: Int32Array): number {
    const { dither, blanks } = this.options;
    const { shaping, range } = this;
    const { scale, highest, half } = range;
    this.states[channel] ??= {
      random: seededRandom(this.options.seed + channel),
      errors: new Float64Array(shaping.length),
      // As if silence had gone before, so that silence at the start stays silence from its first frame.
      silentFrames: BLANK_AFTER,
    };
    const state = this.states[channel];
    const { random, errors } = state;
    let outside = 0;
    for (let i = 0; i < samples.length; i++) {
      const exact = samples[i] * scale;
      if (flattens(exact, range)) outside++;
      if (blanks) {
        state.silentFrames = exact === 0 ? state.silentFrames + 1 : 0;
        if (state.silentFrames > BLANK_AFTER) {
          errors.fill(0);
          out[i] = 0;
          continue;
        }
      }
      let wanted = exact;
      for (let k = 0; k < shaping.length; k++) wanted -= shaping[k] * errors[k];
      const noise = dither === 'none' ? 0 : dither === 'rectangular' ? random() - 0.5 : random() - random();
      const level = Math.max(-scale, Math.min(highest, Math.floor(wanted + noise + half)));
      if (shaping.length) {
        errors.copyWithin(1, 0);
        // What was held at the ends of the range is lost; fed back, it would grow without end.
        errors[0] = Math.max(-2, Math.min(2, level - wanted));
      }
      out[i] = level;
    }
    return outside;
  }
}

/** Integers of `channels` and how many frames had to be held at the ends of the range. */
export interface Quantised {
  readonly channels: Int32Array[];
  readonly clippedFrames: number;
}

/** A whole sound at once. */
export function quantise(channels: readonly Float32Array[], options: QuantiserOptions): Quantised {
  const quantiser = new Quantiser(options);
  return { channels: quantiser.push(channels), clippedFrames: quantiser.clippedFrames };
}
