/** Taps farther apart than this, in ms, begin again; of so many the mean counts. */
const APART = 2000;
const MOST_TAPS = 12;

/** Taps with one more, in ms. */
export function withTap(taps: readonly number[], now: number): readonly number[] {
  const last = taps.at(-1);
  const before = last === undefined || now - last > APART ? [] : taps;
  return [...before, now].slice(-MOST_TAPS);
}

/** Beats a minute of taps; null if there are fewer than three. */
export function tempoOfTaps(taps: readonly number[]): number | null {
  const [first] = taps;
  const last = taps.at(-1);
  if (first === undefined || last === undefined || taps.length < 3) return null;
  return (60_000 * (taps.length - 1)) / (last - first);
}
