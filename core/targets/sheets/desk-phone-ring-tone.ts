import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: newer sets play 72 720 frames and more. The greatest length of older ones is from memory. */
export const deskPhoneRingTone: Target = {
  ...EMPTY_SHEET,
  id: 'desk-phone-ring-tone',
  name: 'Desk phone ring tone',
  about: 'Office telephones that load their ring tones as bare mu-law samples and name them in a list file.',
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['headerless'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['mu-law'] },
    { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
    { key: 'channels', kind: 'channels', anyOf: [1] },
    { key: 'frames', kind: 'frames', multipleOf: 240, least: 240 },
    { key: 'frames-advised', kind: 'frames', most: 16_080, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'tags', kind: 'tags', rule: 'forbidden' },
    { key: 'extension', kind: 'extension', anyOf: ['raw'] },
  ],
  variants: [
    {
      id: 'older-sets',
      name: 'older sets',
      replace: { requirements: [{ key: 'frames', kind: 'frames', multipleOf: 240, least: 240, most: 16_080 }] },
      without: ['frames-advised'],
    },
  ],
  naming: { separator: '-' },
  lists: [
    {
      key: 'list',
      path: 'ring-tones.txt',
      text: 'utf-8',
      lineEnd: '\n',
      escape: 'none',
      header: '',
      row: '{displayName}\t{fileName}',
      footer: '',
      per: 'file',
    },
  ],
  player: {
    reads: 'bare',
    'extra-chunks': 'plays',
    order: 'list',
    'plays-at': 8000,
    block: { frames: 240, fill: 'previous' },
    speaker: { low: 300, high: 3400 },
    assumes: { encoding: 'mu-law', sampleRate: 8000, channels: 1 },
  },
};
