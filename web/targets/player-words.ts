import type { Field } from '@tambur/core';

/** How a device reads a card, in words, by the entries of a sheet's player. */
export const READS = { header: 'reads the header', bare: 'takes every byte as a sample' } as const;
export const EXTRAS = {
  skips: 'skips chunks and tags that it does not know',
  refuses: 'refuses files with chunks or tags beside the sound',
  plays: 'plays chunks and tags as if they were sound',
} as const;
export const ORDERS = {
  name: 'goes by names',
  list: 'goes by its list file',
  slot: 'goes by slots',
  card: 'goes by the order on the card',
} as const;

const options = (words: Readonly<Record<string, string>>) => () =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

/** The entries of a sheet's player as a form asks for them; the two of its loudspeaker stand beside the others. */
export const PLAYER_FIELDS: readonly Field[] = [
  { key: 'reads', label: 'It', type: 'choice', options: options(READS) },
  { key: 'extraChunks', label: 'Beside the sound, it', type: 'choice', options: options(EXTRAS) },
  { key: 'order', label: 'To find sounds, it', type: 'choice', options: options(ORDERS) },
  { key: 'longestName', label: 'Sees names of up to', unit: 'characters', type: 'number', optional: true },
  { key: 'playsAt', label: 'Plays at, whatever is stated', unit: 'Hz', type: 'number', optional: true },
  { key: 'block', label: 'Takes at a time', unit: 'frames', type: 'number', optional: true },
  { key: 'low', label: 'Sounds from', unit: 'Hz', type: 'number' },
  { key: 'high', label: 'to', unit: 'Hz', type: 'number' },
];

export const SLOT_FIELDS: readonly Field[] = [
  { key: 'word', label: 'Called', type: 'text' },
  { key: 'first', label: 'Number of the first', type: 'number' },
  { key: 'count', label: 'How many', type: 'number', optional: true },
];
