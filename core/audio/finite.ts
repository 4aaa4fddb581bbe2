/** Guards at the borders over which numbers come and go: what is not finite goes no farther. */

/** No sample is larger in magnitude, 120 dB above full scale: sums of its square stay finite. */
export const LARGEST_SAMPLE = 2 ** 20;

/** A sample from a file: held within what can be reckoned with; 0 for what is not a number. */
export const soundSample = (value: number): number =>
  Number.isFinite(value) ? Math.max(-LARGEST_SAMPLE, Math.min(LARGEST_SAMPLE, value)) : 0;

/** The same for many; gives back the array itself where there is nothing to mend. */
export function soundSamples(samples: Float32Array): Float32Array {
  for (let i = 0; i < samples.length; i++) {
    const value = samples[i];
    if (!(value <= LARGEST_SAMPLE && value >= -LARGEST_SAMPLE)) return samples.map(soundSample);
  }
  return samples;
}

/** Where in a record, or in what it holds, the first number stands that is not finite: "levels.peak.0". Null without one. */
export function notFinite(value: unknown): string | null {
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, entry] of Object.entries(value)) {
    if (typeof entry === 'number' && !Number.isFinite(entry)) return key;
    const inside = notFinite(entry);
    if (inside !== null) return `${key}.${inside}`;
  }
  return null;
}

/**
 * A record all of whose numbers are finite.
 * @throws RangeError where one is not: a mistake of a developer, not of a user
 */
export function requireFinite<T>(record: T): T {
  const place = notFinite(record);
  if (place !== null) throw new RangeError(`${place} is not finite`);
  return record;
}
