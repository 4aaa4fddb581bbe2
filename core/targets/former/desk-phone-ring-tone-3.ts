import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: newer sets play 72 720 frames and more. The greatest length of older ones is from memory. */
export const deskPhoneRingToneE3: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'desk-phone-ring-tone',
  name: 'Desk phone ring tone',
  about: 'Office telephones that load their ring tones as bare mu-law samples and name them in a list file.',
  requirements: [
    { key: 'frames-advised', kind: 'frames', most: 16_080, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'tags', kind: 'tags', rule: 'forbidden' },
  ],
  variants: [
    {
      id: 'older-sets',
      name: 'older sets',
      replace: {
        player: { 'longest-sound': { frames: 16_080, beyond: 'refuses' } },
      },
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
    keeps: 'files',
    reads: 'bare',
    assumes: { encoding: 'mu-law', channels: 1 },
    finds: { extensions: ['raw'], others: 'ignores' },
    order: 'list',
    'extra-chunks': 'plays',
    'plays-at': 8000,
    block: { frames: 240, fill: 'previous' },
    priority: 'calls',
    speaker: { low: 300, high: 3400 },
  },
  face: { id: 'list', options: { rings: 20 } },
};
