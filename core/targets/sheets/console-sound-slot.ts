import { EMPTY_SHEET, type Target } from '../target.ts';

/**
 * Common practice, no source: a slot plays at one rate, which depends on the console, and so is asked. Larger than the sound
 * that is replaced often works until another sound no longer loads.
 */
export const consoleSoundSlot: Target = {
  ...EMPTY_SHEET,
  edition: 5,
  id: 'console-sound-slot',
  name: 'Console sound slot',
  about:
    'Replaces a sound in the memory of a console or arcade board, which plays it at one rate: better no larger than the one it replaces, or others may not load.',
  requirements: [
    { key: 'size-advised', kind: 'file-size', most: 48_000, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  variants: [
    {
      id: 'big-endian',
      name: 'big-endian',
      replace: {
        player: { assumes: { encoding: 'pcm-s16be', channels: 1 } },
      },
      without: [],
    },
    {
      id: 'wav',
      name: 'for a tool that takes WAV',
      replace: {
        player: {
          reads: 'header',
          finds: { extensions: ['wav'], others: 'ignores' },
          'plays-containers': { anyOf: ['wav'] },
          'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
          'plays-channels': { anyOf: [1], others: 'refuses' },
        },
      },
      without: [],
    },
  ],
  blanks: [
    {
      id: 'rate',
      question: 'What rate does it play at?',
      level: 'job',
      usual: 32_000,
      at: [{ key: 'plays-at', pointer: '' }],
    },
    {
      id: 'size',
      question: 'How large is the sound that it replaces?',
      level: 'clip',
      usual: 48_000,
      at: [{ key: 'size-advised', pointer: '/most' }],
    },
  ],
  naming: { separator: '_' },
  player: {
    reads: 'bare',
    assumes: { encoding: 'pcm-s16le', channels: 1 },
    finds: { extensions: ['bin'], others: 'ignores' },
    order: 'slot',
    'extra-chunks': 'plays',
    'plays-at': 32_000,
    speaker: { low: 100, high: 12_000 },
  },
  face: { id: 'memory-map', options: { root: 60 } },
};
