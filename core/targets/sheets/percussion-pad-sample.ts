import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: strength fixed at 127 is a setting of the device; the number of mute groups is from memory. */
export const percussionPadSample: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'percussion-pad-sample',
  name: 'Percussion pad sample',
  about:
    'Electronic drums that load samples from a stick and trip over anything in a file besides its format and its sound.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  naming: { separator: '_' },
  places: { words: ['pad'], first: 1, labels: {} },
  player: {
    reads: 'header',
    finds: { extensions: ['wav'], others: 'lists' },
    order: 'name',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'refuses',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
    'plays-channels': { anyOf: [1, 2], others: 'refuses' },
    'plays-rates': { anyOf: [44_100] },
    strikes: { velocity: 'follows', voices: 8, canChange: ['length', 'pitch'], muteGroups: 8 },
    'let-go': 'stops',
    speaker: { low: 40, high: 18_000 },
  },
  face: { id: 'pads', options: { pads: 8 } },
};
