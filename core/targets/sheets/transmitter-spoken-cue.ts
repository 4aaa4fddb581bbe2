import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const transmitterSpokenCue: Target = {
  ...EMPTY_SHEET,
  edition: 5,
  id: 'transmitter-spoken-cue',
  name: 'Transmitter spoken cue',
  about: 'Remote controls for models that speak: short names, one language per folder.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  blanks: [
    {
      id: 'folder',
      question: 'In which folder does the device look?',
      level: 'job',
      usual: 'sounds/en',
      at: [{ key: 'looks-in', pointer: '/path' }],
    },
  ],
  naming: { separator: '-' },
  places: { words: ['position'], first: 1, labels: {} },
  player: {
    reads: 'header',
    'looks-in': { path: 'sounds/en' },
    finds: { extensions: ['wav'], others: 'ignores' },
    'longest-name': 10,
    names: { plain: true },
    order: 'name',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'refuses',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
    'plays-channels': { anyOf: [1], others: 'refuses' },
    'plays-rates': { anyOf: [32_000, 16_000] },
    quiet: 'silent',
    speaker: { low: 300, high: 8000 },
  },
  face: { id: 'switch', options: { positions: 6, repeats: 10 } },
};
