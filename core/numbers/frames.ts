/** A rate as a fraction: a clock of `of` Hz divided by `by`. Both are whole numbers above 0. */
export interface Fraction {
  readonly of: number;
  readonly by: number;
}

/**
 * A sample rate: a number of Hz, of which three decimals count, or the exact rate that a timer makes, as a fraction or
 * written as one, "16000000/1020".
 */
export type Rate = number | string | Fraction;

/** Decimals of a rate that is given as a number. */
const THOUSANDTHS = 1000;

/** How a rate is written as a fraction: "16000000/1020". */
export const FRACTION = /^([1-9]\d{0,9})\/([1-9]\d{0,6})$/;

/** Largest common divisor of two positive whole numbers. */
export const greatestCommonDivisor = (a: number, b: number): number => (b === 0 ? a : greatestCommonDivisor(b, a % b));

/** Least common multiple of two positive whole numbers. */
export const leastCommonMultiple = (a: number, b: number): number => (a / greatestCommonDivisor(a, b)) * b;

/**
 * A rate in lowest terms.
 * @throws RangeError for a text that is not a fraction and for what is not above 0
 */
export function fractionOf(rate: Rate): Fraction {
  let of: number;
  let by: number;
  if (typeof rate === 'number') {
    by = Number.isInteger(rate) ? 1 : THOUSANDTHS;
    of = Math.round(rate * by);
  } else if (typeof rate === 'object') {
    of = rate.of;
    by = rate.by;
  } else {
    const match = FRACTION.exec(rate);
    of = Number(match?.[1]);
    by = Number(match?.[2]);
  }
  if (!(of > 0 && by > 0)) throw new RangeError(`not a rate: ${JSON.stringify(rate)}`);
  const divisor = greatestCommonDivisor(of, by);
  return { of: of / divisor, by: by / divisor };
}

/** Rates that devices commonly play, Hz (common practice, no source). */
export const USUAL_RATES: readonly number[] = [8000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000];

/** Hz of a rate. */
export const hertz = (rate: Rate): number => {
  const { of, by } = fractionOf(rate);
  return of / by;
};

/** Frames of so many bars of so many beats, at a tempo in beats a minute: count x beats x 60 / tempo seconds. */
export const barFrames = (count: number, beats: number, tempo: number, sampleRate: number): number =>
  Math.max(1, Math.round((count * beats * 60 * sampleRate) / tempo));

/** Of some numbers of bars, the length in frames that is nearest to one. */
export const nearestBars = (
  { anyOf, beats, tempo }: { readonly anyOf: readonly number[]; readonly beats: number; readonly tempo: number },
  sampleRate: number,
  frames: number,
): number =>
  anyOf
    .map((count) => barFrames(count, beats, tempo, sampleRate))
    .reduce((a, b) => (Math.abs(b - frames) < Math.abs(a - frames) ? b : a));

/** Nearest frame at a time in seconds. */
export const framesAt = (seconds: number, sampleRate: number): number => Math.round(seconds * sampleRate);

/** Frames that `frames` become when the rate changes from `from` to `to`: round(frames x to / from), halves upward. */
export function framesAtRate(frames: number, from: Rate, to: Rate): number {
  const a = fractionOf(from);
  const b = fractionOf(to);
  return Math.round((frames * b.of * a.by) / (a.of * b.by));
}
