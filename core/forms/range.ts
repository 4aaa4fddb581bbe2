import * as v from 'valibot';

/** Numbers from the least to the most; both belong to it. */
export interface NumberRange {
  readonly least: number;
  readonly most: number;
}

/** Schema of a number in a range. */
export const within = ({ least, most }: NumberRange) =>
  v.pipe(v.number(), v.minValue(least, `it must be ${least} or more`), v.maxValue(most, `it must be ${most} or less`));
export const wholeWithin = (range: NumberRange) => v.pipe(within(range), v.integer('it must be a whole number'));

/** Ranges of a musical length: bars, beats in a bar, beats a minute. */
export const BAR_RANGES = {
  count: { least: 1, most: 1000 },
  beats: { least: 1, most: 32 },
  tempo: { least: 20, most: 400 },
} as const;

/** Goals of peaks (dBFS, dBTP) and loudness (LUFS). */
export const GOAL_RANGE: NumberRange = { least: -60, most: 0 };
