/** How single samples stand in bytes. Samples are in storage order: frame by frame, channel by channel. */
interface EncodingBase {
  /** Stable name: in settings, sheets and facts. */
  readonly id: string;
  /** For people: "16-bit signed PCM". */
  readonly title: string;
  /** Bits stored for one sample. */
  readonly bitDepth: number;
  readonly bytesPerSample: number;
  /** Bytes to samples, nominal range -1..1. Bytes after the last whole sample are left alone. */
  decode(bytes: Uint8Array): Float32Array;
}

/** An encoding of whole numbers. */
export interface IntegerEncoding extends EncodingBase {
  readonly kind: 'integer';
  /** Bits of the linear signed integers that `encode` takes: the sample's own depth, 16 for companded encodings. */
  readonly linearBits: number;
  /** True where the levels are not evenly spaced (G.711). */
  readonly companded: boolean;
  encode(samples: Int32Array): Uint8Array;
}

/** An encoding of floating-point numbers. */
export interface FloatEncoding extends EncodingBase {
  readonly kind: 'float';
  encode(samples: Float32Array): Uint8Array;
}

export type Encoding = IntegerEncoding | FloatEncoding;
