import type { Target } from '../target.ts';

/** Common practice, no source. */
export const numberedSoundModule: Target = {
  id: 'numbered-sound-module',
  name: 'Numbered sound module',
  about: 'Small boards that play files by number from a card: 0000, 0001 and so on.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', most: 32_000 },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['wav'] },
    { kind: 'name', digits: 4 },
    { kind: 'nothing-else', but: ['slots.txt'] },
  ],
  variants: [{ id: '4-bit', name: '4-bit', requirements: [{ kind: 'encoding', anyOf: ['ima-adpcm'] }] }],
  naming: { separator: '-' },
  listFile: { name: 'slots.txt', header: 'slot\tfile\tsound', row: '{slot}\t{fileName}\t{displayName}', footer: '' },
  slots: { word: 'number', first: 0, count: 10_000 },
  player: {
    reads: 'header',
    extraChunks: 'plays',
    order: 'slot',
    longestName: 12,
    speaker: { low: 200, high: 12_000 },
  },
};
