import type { Target } from '../target.ts';

/** Common practice, no source: newer sets play 72 720 frames and more. The greatest length of older ones is from memory. */
export const deskPhoneRingTone: Target = {
  id: 'desk-phone-ring-tone',
  name: 'Desk phone ring tone',
  about: 'Office telephones that load their ring tones as bare mu-law samples and name them in a list file.',
  requirements: [
    { kind: 'container', anyOf: ['headerless'] },
    { kind: 'encoding', anyOf: ['mu-law'] },
    { kind: 'sample-rate', anyOf: [8000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'frames', multipleOf: 240, least: 240 },
    { kind: 'frames', most: 16_080, advised: true },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['raw'] },
  ],
  variants: [
    {
      id: 'older-sets',
      name: 'older sets',
      requirements: [{ kind: 'frames', multipleOf: 240, least: 240, most: 16_080 }],
      without: ['frames'],
    },
  ],
  naming: { separator: '-' },
  listFile: { name: 'ring-tones.txt', header: '', row: '{displayName}\t{fileName}', footer: '' },
  player: {
    reads: 'bare',
    extraChunks: 'plays',
    order: 'list',
    playsAt: 8000,
    block: 240,
    speaker: { low: 300, high: 3400 },
  },
};
