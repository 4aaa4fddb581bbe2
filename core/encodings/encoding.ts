import { deinterleave } from '../audio/index.ts';

/** What every encoding has, whether it takes samples one by one or in blocks. */
interface EncodingBase {
  /** Stable name: in settings, sheets and facts. */
  readonly id: string;
  /** For people: "16-bit signed PCM". */
  readonly title: string;
  /** Bits stored for one sample. */
  readonly bitDepth: number;
}

/** How single samples stand in bytes. Samples are in storage order: frame by frame, channel by channel. */
interface SampleEncodingBase extends EncodingBase {
  readonly bytesPerSample: number;
  /** Bytes to samples, nominal range -1..1. Bytes after the last whole sample are left alone. */
  decode(bytes: Uint8Array): Float32Array;
  /** Frames of two samples as two channels, where there is a faster way than to decode and then to split. */
  decodePair?(bytes: Uint8Array, left: Float32Array, right: Float32Array): void;
}

/** An encoding of whole numbers. */
export interface IntegerEncoding extends SampleEncodingBase {
  readonly kind: 'integer';
  /** Bits of the linear signed integers that `encode` takes: the sample's own depth, 16 for companded encodings. */
  readonly linearBits: number;
  /** True where the levels are not evenly spaced (G.711). */
  readonly companded: boolean;
  /** True where the zero of the sound stands in the middle of the range. */
  readonly isUnsigned?: boolean;
  encode(samples: Int32Array): Uint8Array;
}

/** An encoding of floating-point numbers. */
export interface FloatEncoding extends SampleEncodingBase {
  readonly kind: 'float';
  encode(samples: Float32Array): Uint8Array;
}

/** An encoding of single samples. */
export type Encoding = IntegerEncoding | FloatEncoding;

/** How the blocks of one file are laid out. */
export interface BlockLayout {
  readonly channels: number;
  /** Size of one block, all channels together. */
  readonly blockBytes: number;
  /** Pairs of predictor coefficients in 1/256, where the encoding has such and the file brings its own. */
  readonly coefficients?: readonly (readonly [number, number])[];
}

/** An encoding of blocks that can be decoded one by one, but not sample by sample. */
export interface BlockEncoding extends EncodingBase {
  readonly kind: 'block';
  /** Fewest bytes of a block that holds sound. */
  leastBlockBytes(channels: number): number;
  codec(layout: BlockLayout): Codec;
}

/** How the bytes of one file become samples, in units that can be decoded on their own. */
export interface Codec {
  /** Bytes of one unit: a frame or a block. */
  readonly unitBytes: number;
  /** Frames in a whole unit. */
  readonly unitFrames: number;
  /** Decodes whole units, and a last one that is cut short as far as it goes, to samples in storage order. */
  decode(bytes: Uint8Array): Float32Array;
  /** The same, split into channels. */
  decodeChannels(bytes: Uint8Array): Float32Array[];
}

/** Frames in `bytes` bytes, a last unit that is cut short left out. */
export const wholeUnitFrames = ({ unitBytes, unitFrames }: Codec, bytes: number): number =>
  Math.floor(bytes / unitBytes) * unitFrames;

/** Single samples seen as units of one frame. */
export const frameCodec = (encoding: Encoding, channels: number): Codec => ({
  unitBytes: encoding.bytesPerSample * channels,
  unitFrames: 1,
  decode: (bytes) => encoding.decode(bytes),
  decodeChannels(bytes) {
    if (channels !== 2 || !encoding.decodePair) return deinterleave(encoding.decode(bytes), channels);
    const frames = Math.floor(bytes.length / encoding.bytesPerSample / 2);
    const out = [new Float32Array(frames), new Float32Array(frames)];
    encoding.decodePair(bytes, out[0], out[1]);
    return out;
  },
});

/** Joins one decoder for a block to a codec for any number of blocks. `decodeBlock` gives the frames that it wrote. */
export function blockCodec(
  { blockBytes, channels }: BlockLayout,
  unitFrames: number,
  decodeBlock: (block: Uint8Array, out: Float32Array) => number,
): Codec {
  const decode = (bytes: Uint8Array): Float32Array => {
    const out = new Float32Array(Math.ceil(bytes.length / blockBytes) * unitFrames * channels);
    let length = 0;
    for (let at = 0; at < bytes.length; at += blockBytes) {
      length += decodeBlock(bytes.subarray(at, at + blockBytes), out.subarray(length)) * channels;
    }
    return out.subarray(0, length);
  };
  return {
    unitBytes: blockBytes,
    unitFrames,
    decode,
    decodeChannels: (bytes) => deinterleave(decode(bytes), channels),
  };
}
