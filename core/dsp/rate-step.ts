import { type Fraction, fractionOf, greatestCommonDivisor, type Rate } from '../numbers/index.ts';

/** What the resampling filter promises. */
export interface ResampleQuality {
  /** End of the pass band, as a part of the lower Nyquist frequency. */
  readonly passBand: number;
  /** Attenuation from the lower Nyquist frequency upward, in dB. */
  readonly attenuation: number;
}

/** Filter qualities: for delivery, and for a quick look at a third of the work. */
export const QUALITIES = {
  standard: { passBand: 0.913, attenuation: 120 },
  draft: { passBand: 0.8, attenuation: 80 },
} as const satisfies Record<string, ResampleQuality>;

/** Coefficients are rounded to this grid (-168 dB) before they are stored with 32 bits. */
export const COEFFICIENT_STEP = 2 ** -28;

export function lowest({ of, by }: Fraction): Fraction {
  const divisor = greatestCommonDivisor(of, by);
  return { of: of / divisor, by: by / divisor };
}

/** Output frames / input frames, in lowest terms: `of` phases for each input frame, of which an output takes `by`. */
export function ratioOf(from: Rate, to: Rate): Fraction {
  const a = fractionOf(from);
  const b = fractionOf(to);
  return lowest({ of: b.of * a.by, by: a.of * b.by });
}

/** End of the pass band and start of the stop band, in cycles per input frame. */
export interface Band {
  readonly end: number;
  readonly stop: number;
}

/** A step of a conversion: a filter from one rate to another, designed once and used by any number of channels. */
export interface RateStep {
  /** Input frames before the first output's place that its filter needs. */
  readonly reach: number;
  /**
   * Begins a channel.
   * @param early frames by which its input begins before the sound does
   * @param before frames by which its output has to begin before the sound does, where the step only takes every so many
   */
  begin(early: number, before: number): RateProcess;
}

/** A step at work on a channel: input comes in, as much output as it completes goes out. */
export interface RateProcess {
  /** What is given is valid until the next is asked for. */
  push(input: Float32Array): Float32Array;
  /** Takes the last input; silence follows it, so much that every frame has been used. No more output than so much. */
  ending(input: Float32Array, limit: number): Float32Array;
}
