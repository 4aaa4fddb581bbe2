import type { Target } from '../target.ts';

/** Common practice, no source. */
export const percussionPadSample: Target = {
  id: 'percussion-pad-sample',
  name: 'Percussion pad sample',
  about:
    'Electronic drums that load samples from a stick and trip over anything in a file besides its format and its sound.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [44_100] },
    { kind: 'channels', anyOf: [1, 2] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['wav'] },
    { kind: 'nothing-else' },
  ],
  naming: { separator: '_' },
  player: { reads: 'header', extraChunks: 'refuses', order: 'name', speaker: { low: 40, high: 18_000 } },
};
