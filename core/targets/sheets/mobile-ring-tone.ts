import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: 30 s or less, 40 s at the very most; it rings for some 20 s; made to loop. Simple sounds take fewer bits than 128 kbit/s, which no telephone minds: advised. */
export const mobileRingTone: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'mobile-ring-tone',
  name: 'Mobile ring tone',
  about: 'Mobile telephones that take a ring tone as a short AAC file and repeat it: a clean seam matters.',
  requirements: [
    { key: 'bit-rate-advised', kind: 'bit-rate', least: 128_000, advised: true },
    { key: 'duration-advised', kind: 'duration', most: 30, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  variants: [
    {
      id: 'm4r',
      name: 'for telephones that want .m4r',
      replace: { player: { finds: { extensions: ['m4r'], others: 'ignores' } } },
      without: [],
    },
  ],
  naming: { separator: '-' },
  player: {
    keeps: 'list',
    reads: 'header',
    finds: { extensions: ['m4a'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['mp4'] },
    'extra-chunks': 'skips',
    'plays-encodings': { anyOf: ['aac'], others: 'refuses' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100, 48_000] },
    'longest-sound': { seconds: 40, beyond: 'refuses' },
    quiet: 'silent',
    speaker: { low: 300, high: 16_000 },
  },
  face: { id: 'list', options: { rings: 20 } },
};
