import type { Target } from '../target.ts';

/** Common practice, no source: the size is that of the sound that is replaced; change it to yours. */
export const consoleSoundSlot: Target = {
  id: 'console-sound-slot',
  name: 'Console sound slot',
  about: 'Replaces a sound in the memory of a console or arcade board: it may be no larger than the one it replaces.',
  requirements: [
    { kind: 'container', anyOf: ['headerless'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', least: 4000, most: 32_000 },
    { kind: 'channels', anyOf: [1] },
    { kind: 'file-size', most: 48_000 },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['bin'] },
  ],
  variants: [
    {
      id: 'big-endian',
      name: 'big-endian',
      requirements: [{ kind: 'encoding', anyOf: ['pcm-s16be'] }],
    },
  ],
  naming: { separator: '_' },
  player: { reads: 'bare', extraChunks: 'plays', order: 'slot', speaker: { low: 100, high: 12_000 } },
};
