import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: the size is that of the sound that is replaced, to be filled in for each clip. */
export const consoleSoundSlotE4: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'console-sound-slot',
  name: 'Console sound slot',
  about: 'Replaces a sound in the memory of a console or arcade board: it may be no larger than the one it replaces.',
  requirements: [
    { key: 'sample-rate', kind: 'sample-rate', least: 4000, most: 32_000 },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  variants: [
    {
      id: 'big-endian',
      name: 'big-endian',
      replace: {
        player: { assumes: { encoding: 'pcm-s16be', sampleRate: 32_000, channels: 1 } },
      },
      without: [],
    },
  ],
  blanks: [
    {
      id: 'size',
      question: 'How large is the sound that it replaces?',
      level: 'clip',
      usual: 48_000,
      at: [{ key: 'longest-sound', pointer: '/bytes' }],
    },
  ],
  naming: { separator: '_' },
  player: {
    reads: 'bare',
    assumes: { encoding: 'pcm-s16le', sampleRate: 32_000, channels: 1 },
    finds: { extensions: ['bin'], others: 'ignores' },
    order: 'slot',
    'extra-chunks': 'plays',
    'longest-sound': { bytes: 48_000, beyond: 'cuts' },
    speaker: { low: 100, high: 12_000 },
  },
  face: { id: 'memory-map', options: { root: 60 } },
};
