import { within } from '../kernel/samples.ts';

/** Guards at the borders over which numbers come and go: what is not finite goes no farther. */

/** No sample is larger in magnitude, 120 dB above full scale: sums of its square stay finite. */
export const LARGEST_SAMPLE = 2 ** 20;

/** A sample from a file: held within what can be reckoned with; 0 for what is not a number. */
export const soundSample = (value: number): number =>
  Number.isFinite(value) ? Math.max(-LARGEST_SAMPLE, Math.min(LARGEST_SAMPLE, value)) : 0;

/** The same for many; gives back the array itself where there is nothing to mend. */
export const soundSamples = (samples: Float32Array): Float32Array =>
  within(samples, LARGEST_SAMPLE) ? samples : samples.map(soundSample);

/** Path of the first number in a record that is not finite, such as "levels.peak.0"; null if all are. */
export function notFinite(value: unknown): string | null {
  // What comes from outside may be nested more deeply than a function can call itself.
  const waiting: { readonly place: string; readonly value: unknown }[] = [{ place: '', value }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { place, value: entry } = next;
    if (typeof entry === 'number' && !Number.isFinite(entry)) return place;
    if (typeof entry !== 'object' || entry === null) continue;
    const inside = Object.entries(entry).reverse();
    for (const [key, value] of inside) waiting.push({ place: place ? `${place}.${key}` : key, value });
  }
  return null;
}

/**
 * A record all of whose numbers are finite.
 * @throws RangeError if one is not: a mistake of a developer, not of a user
 */
export function requireFinite<T>(record: T): T {
  const place = notFinite(record);
  if (place !== null) throw new RangeError(`${place} is not finite`);
  return record;
}
