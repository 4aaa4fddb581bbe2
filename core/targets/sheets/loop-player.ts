import type { Target } from '../target.ts';

/** Common practice, no source: two bars of four beats at 120 a minute last 4 s, 176 400 frames. */
export const loopPlayer: Target = {
  id: 'loop-player',
  name: 'Loop player',
  about:
    'Players that repeat a sound without a gap and count on whole bars: one frame too many is heard at every repeat.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [44_100] },
    { kind: 'channels', anyOf: [2, 1] },
    { kind: 'bars', anyOf: [1, 2, 4], beats: 4, tempo: 120 },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['wav'] },
    { kind: 'file-count', most: 8 },
  ],
  naming: { separator: '-' },
  slots: { word: 'slot', first: 1, count: 8 },
  player: { reads: 'header', extraChunks: 'skips', order: 'slot', speaker: { low: 60, high: 16_000 } },
};
