import { formatBytes, InputError } from '../words/index.ts';

/** Largest file that is taken onto the shelf, in bytes. It is read through piece by piece; its sound needs room on the disk. */
export const LARGEST_FILE = 4_000_000_000;

/** Hours of sound that a file may hold. */
export const MOST_HOURS = 24;

/** Channels of a file that is read. */
export const MOST_CHANNELS = 64;

/** Hz that a file may state. */
export const LARGEST_RATE = 1_000_000;

/** Tags, chunks beside the sound and remarks of one file that are looked at, and characters of each. */
export const MOST_ENTRIES = 200;
export const LONGEST_ENTRY = 4000;

/** @throws InputError with code `too-large` if `bytes` exceed `limit` */
export function refuseTooLarge(name: string, bytes: number, limit = LARGEST_FILE): void {
  if (bytes <= limit) return;
  const most = formatBytes(limit);
  throw new InputError(
    'too-large',
    `${name} is larger than ${most}, the most that Tambur takes; cut it into parts first.`,
  );
}
