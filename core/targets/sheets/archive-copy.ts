import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: FLAC keeps every bit, as many as there are. */
export const archiveCopy: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'archive-copy',
  name: 'Archive copy',
  about: 'A copy to keep: lossless, at the rate and the depth of the source, with its tags.',
  requirements: [{ key: 'tags', kind: 'tags', rule: 'kept' }],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    finds: { extensions: ['flac'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['flac'] },
    'plays-encodings': { anyOf: ['flac'], others: 'refuses' },
    'extra-chunks': 'skips',
    speaker: { low: 20, high: 20_000 },
  },
  face: { id: 'list', options: { rings: 0 } },
};
