import { EMPTY_SHEET, type Target, type Variant } from '../target.ts';

/** MP3 alone, of one constant bit rate. */
const constantMp3 = (id: string, name: string, bitRate: number): Variant => ({
  id,
  name,
  replace: {
    requirements: [{ key: 'bit-rate', kind: 'bit-rate', anyOf: [bitRate], constant: true }],
    player: {
      finds: { extensions: ['mp3'], others: 'ignores' },
      'plays-containers': { anyOf: ['mp3'] },
      'plays-encodings': { anyOf: ['mp3'], others: 'refuses' },
    },
  },
  without: [],
});

/** Common practice, no source: any bit rate from 128 kbit/s on, 192 usual. */
export const portablePlayer: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'portable-player',
  name: 'Portable player',
  about: 'Pocket players: MP3 or AAC with their tags, so that they show what is playing.',
  requirements: [
    { key: 'bit-rate', kind: 'bit-rate', least: 128_000 },
    { key: 'tags', kind: 'tags', rule: 'kept' },
  ],
  variants: [
    constantMp3('128-kbit', '128 kbit/s', 128_000),
    constantMp3('192-kbit', '192 kbit/s', 192_000),
    constantMp3('320-kbit', '320 kbit/s', 320_000),
  ],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    finds: { extensions: ['mp3', 'm4a'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['mp3', 'mp4'] },
    'extra-chunks': 'skips',
    'plays-encodings': { anyOf: ['mp3', 'aac'], others: 'refuses' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100, 48_000] },
    speaker: { low: 20, high: 18_000 },
  },
  face: { id: 'list', options: { rings: 0 } },
};
