import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: 30 s or less, 40 s at the very most; made to loop. Simple sounds take fewer bits than 128 kbit/s, which no telephone minds: advised. */
export const mobileRingToneE3: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'mobile-ring-tone',
  name: 'Mobile ring tone',
  about: 'Mobile telephones that take a ring tone as a short AAC file and repeat it: a clean seam matters.',
  requirements: [
    { key: 'bit-rate-advised', kind: 'bit-rate', least: 128_000, advised: true },
    { key: 'duration-advised', kind: 'duration', most: 30, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  naming: { separator: '-' },
  player: {
    keeps: 'list',
    reads: 'header',
    finds: { extensions: ['m4r'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['mp4'] },
    'extra-chunks': 'skips',
    'plays-encodings': { anyOf: ['aac'], others: 'refuses' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100] },
    'longest-sound': { seconds: 40, beyond: 'refuses' },
    quiet: 'silent',
    speaker: { low: 300, high: 16_000 },
  },
  face: { id: 'list', options: { rings: 30 } },
};
