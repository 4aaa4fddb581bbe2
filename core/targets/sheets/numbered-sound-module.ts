import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const numberedSoundModule: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'numbered-sound-module',
  name: 'Numbered sound module',
  about: 'Small boards that play files by number from a card: 0000, 0001 and so on.',
  requirements: [
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'nothing-else', kind: 'nothing-else', but: ['slots.txt'] },
  ],
  variants: [
    {
      id: '4-bit',
      name: '4-bit',
      replace: {
        player: { 'extra-chunks': 'refuses', 'plays-encodings': { anyOf: ['ima-adpcm'], others: 'refuses' } },
      },
      without: [],
    },
  ],
  naming: { separator: '-' },
  lists: [
    {
      key: 'list',
      path: 'slots.txt',
      text: 'utf-8',
      lineEnd: '\n',
      escape: 'none',
      header: 'slot\tfile\tsound',
      row: '{slot}\t{fileName}\t{displayName}',
      footer: '',
      per: 'file',
    },
  ],
  places: { words: ['number'], first: 0, count: 10_000, labels: {} },
  player: {
    reads: 'header',
    finds: { extensions: ['wav'], others: 'lists' },
    names: { digits: 4 },
    order: 'slot',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'plays',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
    'plays-channels': { anyOf: [1], others: 'as-if' },
    'plays-rates': { most: 32_000 },
    speaker: { low: 200, high: 12_000 },
  },
  face: { id: 'number-keys', options: { first: 0 } },
};
