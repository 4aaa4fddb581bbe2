import { findEncoding, type Reading } from '@tambur/core';

/** True if each sample of an encoding stands alone, so that some of its bits may be unused. */
export const isSampleBySample = (id: string): boolean => findEncoding(id)?.kind !== 'block';

/** Bits of a sample; 8 if nothing says it. */
export const bitsOf = (id: string): number => findEncoding(id)?.bitDepth ?? 8;

/** Bytes of a sample; for samples that share bytes, the most that one can have. */
function bytesOfSample(id: string): number {
  const encoding = findEncoding(id);
  return encoding && encoding.kind !== 'block' ? encoding.bytesPerSample : Math.ceil(bitsOf(id) / 8);
}

/** Bytes that hold at least the first seconds of a reading, with what it skips. */
export const bytesFor = ({ encoding, sampleRate, channels, skip = 0 }: Reading, seconds: number): number =>
  Math.ceil(seconds * sampleRate) * bytesOfSample(encoding) * channels + skip;

/** True if two readings are one among those that are ranked: rate and unused bits are not. */
export const isSame = (a: Reading, b: Reading): boolean => a.encoding === b.encoding && a.channels === b.channels;
