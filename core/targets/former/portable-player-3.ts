import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const portablePlayerE3: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'portable-player',
  name: 'Portable player',
  about: 'Pocket players: MP3 with its tags, so that they show what is playing.',
  requirements: [
    { key: 'bit-rate', kind: 'bit-rate', anyOf: [192_000], constant: true },
    { key: 'tags', kind: 'tags', rule: 'kept' },
  ],
  variants: [
    {
      id: '128-kbit',
      name: '128 kbit/s',
      replace: { requirements: [{ key: 'bit-rate', kind: 'bit-rate', anyOf: [128_000], constant: true }] },
      without: [],
    },
    {
      id: '320-kbit',
      name: '320 kbit/s',
      replace: { requirements: [{ key: 'bit-rate', kind: 'bit-rate', anyOf: [320_000], constant: true }] },
      without: [],
    },
  ],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    finds: { extensions: ['mp3'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['mp3'] },
    'extra-chunks': 'skips',
    'plays-encodings': { anyOf: ['mp3'], others: 'refuses' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100, 48_000] },
    speaker: { low: 20, high: 18_000 },
  },
  face: { id: 'list', options: { rings: 0 } },
};
