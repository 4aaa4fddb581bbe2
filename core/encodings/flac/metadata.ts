/** Kinds of metadata blocks, by their numbers (RFC 9639, 8.1). */
export const METADATA_BLOCKS: readonly string[] = [
  'stream information',
  'padding',
  'application',
  'seek table',
  'comments',
  'cue sheet',
  'picture',
];
