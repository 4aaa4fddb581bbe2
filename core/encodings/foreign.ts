import type { Encoding } from './encoding.ts';

/** Encodings that libraries read and nobody here writes. A new one: its line here, and its format in `codecs/formats`. */
export const foreignEncodings: readonly Encoding[] = [
  { kind: 'foreign', id: 'alac', title: 'ALAC', compression: 'lossless' },
  { kind: 'foreign', id: 'wma', title: 'WMA', compression: 'lossy' },
  { kind: 'foreign', id: 'amr-nb', title: 'AMR narrowband', compression: 'lossy' },
  { kind: 'foreign', id: 'amr-wb', title: 'AMR wideband', compression: 'lossy' },
  { kind: 'foreign', id: 'mp2', title: 'MPEG layer 2', compression: 'lossy' },
  { kind: 'foreign', id: 'ac3', title: 'AC-3', compression: 'lossy' },
  { kind: 'foreign', id: 'lpcm', title: 'linear PCM' },
];
