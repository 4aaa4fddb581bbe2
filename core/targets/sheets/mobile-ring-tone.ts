import type { Target } from '../target.ts';

/** Common practice, no source: 30 s or less, 40 s at the very most; made to loop. Simple sounds take fewer bits than 128 kbit/s, which no telephone minds: advised. */
export const mobileRingTone: Target = {
  id: 'mobile-ring-tone',
  name: 'Mobile ring tone',
  about: 'Mobile telephones that take a ring tone as a short AAC file and repeat it: a clean seam matters.',
  requirements: [
    { kind: 'container', anyOf: ['mp4'] },
    { kind: 'encoding', anyOf: ['aac'] },
    { kind: 'sample-rate', anyOf: [44_100] },
    { kind: 'channels', anyOf: [2, 1] },
    { kind: 'bit-rate', least: 128_000, advised: true },
    { kind: 'duration', most: 40 },
    { kind: 'duration', most: 30, advised: true },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['m4r'] },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'skips', order: 'name', speaker: { low: 300, high: 16_000 } },
};
