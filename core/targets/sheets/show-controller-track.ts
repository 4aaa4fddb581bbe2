import type { Target } from '../target.ts';

/** Common practice, no source: silence at the start lets the player lock on to the stream before anything is heard; no must. */
export const showControllerTrack: Target = {
  id: 'show-controller-track',
  name: 'Show controller track',
  about: 'Controllers of lights and fountains that play an MP3 along with the show, of one plain kind only.',
  requirements: [
    { kind: 'container', anyOf: ['mp3'] },
    { kind: 'encoding', anyOf: ['mp3'] },
    { kind: 'sample-rate', anyOf: [44_100] },
    { kind: 'channels', anyOf: [2] },
    { kind: 'bit-rate', anyOf: [320_000], constant: true },
    { kind: 'stereo-mode', mode: 'joint' },
    { kind: 'silence', front: 5, advised: true },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['mp3'] },
  ],
  variants: [
    {
      id: 'older-firmware',
      name: 'older firmware',
      requirements: [{ kind: 'bit-rate', anyOf: [128_000], constant: true }],
    },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'refuses', order: 'name', speaker: { low: 40, high: 16_000 } },
};
