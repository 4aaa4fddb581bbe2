import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const transmitterSpokenCue: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'transmitter-spoken-cue',
  name: 'Transmitter spoken cue',
  about: 'Remote controls for models that speak: short names, one language per folder.',
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['wav'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
    { key: 'sample-rate', kind: 'sample-rate', anyOf: [32_000, 16_000] },
    { key: 'channels', kind: 'channels', anyOf: [1] },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'tags', kind: 'tags', rule: 'forbidden' },
    { key: 'extension', kind: 'extension', anyOf: ['wav'] },
    { key: 'name', kind: 'name', plain: true, mostWithExtension: 10 },
    { key: 'folder', kind: 'folder', path: 'sounds/en' },
  ],
  blanks: [
    {
      id: 'folder',
      question: 'In which folder does the device look?',
      level: 'job',
      usual: 'sounds/en',
      at: [{ key: 'folder', pointer: '/path' }],
    },
  ],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    'extra-chunks': 'skips',
    order: 'name',
    'longest-name': 10,
    speaker: { low: 300, high: 8000 },
  },
};
