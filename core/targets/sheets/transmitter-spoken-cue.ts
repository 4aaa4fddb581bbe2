import type { Target } from '../target.ts';

/** Common practice, no source. */
export const transmitterSpokenCue: Target = {
  id: 'transmitter-spoken-cue',
  name: 'Transmitter spoken cue',
  about: 'Remote controls for models that speak: short names, one language per folder.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [32_000, 16_000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['wav'] },
    { kind: 'name', plain: true, mostWithExtension: 10 },
    { kind: 'folder', path: 'sounds/en' },
  ],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    extraChunks: 'skips',
    order: 'name',
    longestName: 10,
    playsAt: 32_000,
    speaker: { low: 300, high: 8000 },
  },
};
