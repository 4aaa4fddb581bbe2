import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: two bars of four beats at 120 a minute last 4 s, 176 400 frames. */
export const loopPlayerE4: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'loop-player',
  name: 'Loop player',
  about:
    'Players that repeat a sound without a gap and count on whole bars: one frame too many is heard at every repeat.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  blanks: [
    {
      id: 'tempo',
      question: 'What is the tempo?',
      level: 'job',
      usual: 120,
      at: [{ key: 'on-the-bar', pointer: '/tempo' }],
    },
    {
      id: 'beats',
      question: 'How many beats has a bar?',
      level: 'job',
      usual: 4,
      at: [{ key: 'on-the-bar', pointer: '/beats' }],
    },
  ],
  naming: { separator: '-' },
  places: { words: ['slot'], first: 1, count: 8, labels: {} },
  player: {
    reads: 'header',
    finds: { extensions: ['wav'], others: 'ignores' },
    order: 'slot',
    'most-sounds': 8,
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'refuses',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100] },
    'on-the-bar': { anyOf: [1, 2, 4], beats: 4, tempo: 120 },
    speaker: { low: 60, high: 16_000 },
  },
  face: { id: 'loops', options: { slots: 8 } },
};
