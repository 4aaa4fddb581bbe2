import type { Target } from '../target.ts';

/** Common practice, no source: FLAC keeps every bit, as many as there are. */
export const archiveCopy: Target = {
  id: 'archive-copy',
  name: 'Archive copy',
  about: 'A copy to keep: lossless, at the rate and the depth of the source, with its tags.',
  requirements: [
    { kind: 'container', anyOf: ['flac'] },
    { kind: 'encoding', anyOf: ['flac'] },
    { kind: 'tags', rule: 'kept' },
    { kind: 'extension', anyOf: ['flac'] },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'skips', order: 'name', speaker: { low: 20, high: 20_000 } },
};
