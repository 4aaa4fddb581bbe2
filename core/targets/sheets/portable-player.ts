import type { Target } from '../target.ts';

/** Common practice, no source. */
export const portablePlayer: Target = {
  id: 'portable-player',
  name: 'Portable player',
  about: 'Pocket players: MP3 with its tags, so that they show what is playing.',
  requirements: [
    { kind: 'container', anyOf: ['mp3'] },
    { kind: 'encoding', anyOf: ['mp3'] },
    { kind: 'sample-rate', anyOf: [44_100, 48_000] },
    { kind: 'channels', anyOf: [2, 1] },
    { kind: 'bit-rate', anyOf: [192_000], constant: true },
    { kind: 'tags', rule: 'kept' },
    { kind: 'extension', anyOf: ['mp3'] },
  ],
  variants: [
    { id: '128-kbit', name: '128 kbit/s', requirements: [{ kind: 'bit-rate', anyOf: [128_000], constant: true }] },
    { id: '320-kbit', name: '320 kbit/s', requirements: [{ kind: 'bit-rate', anyOf: [320_000], constant: true }] },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'skips', order: 'name', speaker: { low: 20, high: 18_000 } },
};
