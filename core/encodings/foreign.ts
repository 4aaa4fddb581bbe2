/** An encoding that only a library reads. */
export interface ForeignEncoding {
  readonly id: string;
  readonly title: string;
  /** True where every sample comes back as it was. */
  readonly isLossless?: boolean;
}

/** Encodings that libraries read and nobody here writes. A new one: its line here, and its format in `codecs/formats`. */
export const foreignEncodings: readonly ForeignEncoding[] = [
  { id: 'alac', title: 'ALAC', isLossless: true },
  { id: 'wma', title: 'WMA' },
  { id: 'amr-nb', title: 'AMR narrowband' },
  { id: 'amr-wb', title: 'AMR wideband' },
  { id: 'mp2', title: 'MPEG layer 2' },
  { id: 'ac3', title: 'AC-3' },
  { id: 'lpcm', title: 'linear PCM' },
];
