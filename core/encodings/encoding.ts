import { deinterleave } from '../audio/index.ts';
import { concatenated, Room } from '../bytes/index.ts';
import type { Decoding } from './decoding.ts';

/** How samples are laid out in bytes; null if there is no such thing, as one byte has every order. */
export interface ByteLayout {
  readonly order: 'little' | 'big' | null;
  readonly sign: 'signed' | 'unsigned' | null;
  /** In bytes of their own, or packed across bytes. */
  readonly packing: 'bytes' | 'packed' | null;
}

/** Properties that every encoding has, whether Tambur or a library reads and writes it. */
export interface Encoding {
  /** By what it is made of samples: one by one, in blocks, by a library, or not at all, as it is only read. */
  readonly kind: 'integer' | 'float' | 'block' | 'compressed' | 'foreign';
  /** Stable name: in settings, sheets and facts. */
  readonly id: string;
  /** For people: "16-bit signed PCM". */
  readonly title: string;
  /** Left out if every sample takes the same bits. */
  readonly compression?: 'lossless' | 'lossy';
  /** What it can carry; left out if that is all that Tambur makes. */
  readonly carries?: EncodingLimits;
}

/** Rates and channels that an encoding can carry. */
export interface EncodingLimits {
  /** Hz, rising; left out if it carries all from the least to the most. */
  readonly sampleRates?: readonly number[];
  readonly leastRate?: number;
  readonly mostRate?: number;
  readonly mostChannels: number;
}

/** How an encoding is found without a header (common practice, no source). */
export interface BareHabit {
  /** Hz at which it usually is. */
  readonly usualRate: number;
  /** True if it is found far less often than others. */
  readonly isRare?: boolean;
}

/** What core knows of an encoding that it reads and writes itself. */
interface PlainBase extends Encoding {
  /** Bits stored for one sample. */
  readonly bitDepth: number;
  /** Of encodings whose samples are whole as they stand. */
  readonly byteLayout?: ByteLayout;
  /** So many bytes in which nothing is heard, from the first of a sample or block; of ADPCM those that change least. */
  silence(bytes: number): Uint8Array;
  /** How a device's own program makes samples of it; left out if that takes floating point. */
  decoding?(channels: number, sampleRate: number): Decoding;
  /** Left out if it is not found without a header. */
  readonly bare?: BareHabit;
  /**
   * Distance from one level to the next at each of some samples, where full range is 2; left out if all levels are
   * equally far apart, as many as bits can tell.
   * @param samples what `bytes` come to, from the start of a sound, in storage order
   */
  spacing?(samples: Float32Array, bytes: Uint8Array, layout: BlockLayout): Float32Array;
}

/** How single samples are laid out in bytes. Samples are in storage order: frame by frame, channel by channel. */
interface SampleBase extends PlainBase {
  readonly bytesPerSample: number;
  /**
   * Bytes to samples, nominal range -1..1. Bytes after the last whole sample are left alone.
   * @param room where they are put, at place 0
   */
  decode(bytes: Uint8Array, room?: Room): Float32Array;
  /** Frames of two samples as two channels, where there is a faster way than to decode and then to split. */
  decodePair?(bytes: Uint8Array, left: Float32Array, right: Float32Array): void;
}

/** An encoding of whole numbers. */
export interface IntegerEncoding extends SampleBase {
  readonly kind: 'integer';
  /** Bits of the linear signed integers that `encode` takes: the sample's own depth, 16 for companded encodings. */
  readonly linearBits: number;
  /** True if the levels are not evenly spaced (G.711). */
  readonly companded: boolean;
  /** True if the zero of the sound is in the middle of the range. */
  readonly isUnsigned?: boolean;
  encode(samples: Int32Array): Uint8Array;
}

/** An encoding of floating-point numbers. */
export interface FloatEncoding extends SampleBase {
  readonly kind: 'float';
  encode(samples: Float32Array): Uint8Array;
}

/** An encoding of single samples. */
export type SampleEncoding = IntegerEncoding | FloatEncoding;

/** How the blocks of one file are laid out. */
export interface BlockLayout {
  readonly channels: number;
  /** Size of one block, all channels together. */
  readonly blockBytes: number;
  /** Pairs of predictor coefficients in 1/256, where the encoding has such and the file brings its own. */
  readonly coefficients?: readonly (readonly [number, number])[];
}

/** An encoding of several samples at a time, in blocks: ADPCM, and samples whose bits are packed. */
export interface BlockEncoding extends PlainBase {
  readonly kind: 'block';
  /** Bits of the linear signed integers that its encoder takes. */
  readonly linearBits: number;
  /** True if the levels are not evenly spaced, or not always the same ones. */
  readonly companded: boolean;
  /** Fewest bytes of a block that holds sound. */
  leastBlockBytes(channels: number): number;
  /** How it is written where nothing else is said. */
  layout(channels: number, sampleRate: number): BlockLayout;
  /** Bytes of so many frames. */
  bytesOf(frames: number, layout: BlockLayout): number;
  codec(layout: BlockLayout): Codec;
  encoder(layout: BlockLayout): BlockEncoder;
}

/** Any encoding that core reads and writes itself. */
export type PlainEncoding = SampleEncoding | BlockEncoding;

/** Encodes a sound that comes piece by piece. */
export interface BlockEncoder {
  /** The next frames, in storage order; gives the bytes that are complete. */
  push(samples: Int32Array): Uint8Array;
  /** What is left, the last block filled up. */
  finish(): Uint8Array;
}

/** How the bytes of one file become samples, in units that can be decoded on their own. */
export interface Codec {
  /** Bytes of one unit: a frame or a block. */
  readonly unitBytes: number;
  /** Frames in a whole unit. */
  readonly unitFrames: number;
  /**
   * Decodes whole units, and a last one that is cut short as far as it goes, to samples in storage order.
   * @param room where they are put, at place 0
   */
  decode(bytes: Uint8Array, room?: Room): Float32Array;
  /**
   * The same, split into channels.
   * @param room where they are put
   */
  decodeChannels(bytes: Uint8Array, room?: Room): Float32Array[];
  /** For units that build on those before them: a codec that stands at the start of the sound. */
  fromStart?(): Codec;
}

/** Layout of whole numbers, each in its own bytes. */
export const byteLayoutOf = (bits: number, signed: boolean, bigEndian: boolean): ByteLayout => ({
  order: bits <= 8 ? null : bigEndian ? 'big' : 'little',
  sign: signed ? 'signed' : 'unsigned',
  packing: 'bytes',
});

/** Bytes of samples that are zero, over and over. */
export function zeroSamples(one: Uint8Array, bytes: number): Uint8Array {
  return Uint8Array.from({ length: bytes }, (_, i) => one[i % one.length]);
}

/** How a sound is laid out in the bytes of an encoding. */
export const layoutOf = (encoding: PlainEncoding, channels: number, sampleRate: number): BlockLayout =>
  encoding.kind === 'block'
    ? encoding.layout(channels, sampleRate)
    : { channels, blockBytes: encoding.bytesPerSample * channels };

/** Bytes of so many frames. */
export const bytesOf = (encoding: PlainEncoding, frames: number, layout: BlockLayout): number =>
  encoding.kind === 'block' ? encoding.bytesOf(frames, layout) : frames * layout.blockBytes;

export const codecOf = (encoding: PlainEncoding, layout: BlockLayout): Codec =>
  encoding.kind === 'block' ? encoding.codec(layout) : frameCodec(encoding, layout.channels);

/** Frames in so many bytes: whole units, and of a last one what is there. */
export function framesIn(codec: Codec, channels: number, bytes: number): number {
  const whole = Math.floor(bytes / codec.unitBytes) * codec.unitFrames;
  const rest = bytes % codec.unitBytes;
  if (rest === 0 || codec.unitFrames === 1) return whole;
  return whole + Math.floor((codec.fromStart?.() ?? codec).decode(new Uint8Array(rest)).length / channels);
}

/** Single samples seen as units of one frame. */
export const frameCodec = (encoding: SampleEncoding, channels: number): Codec => ({
  unitBytes: encoding.bytesPerSample * channels,
  unitFrames: 1,
  decode: (bytes, room) => encoding.decode(bytes, room),
  decodeChannels(bytes, room = new Room()) {
    if (channels !== 2 || !encoding.decodePair) return deinterleave(encoding.decode(bytes, room), channels, room);
    const frames = Math.floor(bytes.length / encoding.bytesPerSample / 2);
    const out = [room.samples(0, frames), room.samples(1, frames)];
    encoding.decodePair(bytes, out[0], out[1]);
    return out;
  },
});

/** Joins one encoder for a whole block to one for any number of frames. The last block is filled with its last frame. */
export function blockEncoder(
  { channels }: BlockLayout,
  unitFrames: number,
  encodeBlock: (samples: Int32Array) => Uint8Array,
): BlockEncoder {
  const size = unitFrames * channels;
  let waiting = new Int32Array(0);
  const encode = (samples: Int32Array): Uint8Array => {
    const blocks: Uint8Array[] = [];
    for (let at = 0; at < samples.length; at += size) blocks.push(encodeBlock(samples.subarray(at, at + size)));
    return concatenated(blocks);
  };
  return {
    push(samples) {
      const all = new Int32Array(waiting.length + samples.length);
      all.set(waiting);
      all.set(samples, waiting.length);
      const whole = all.length - (all.length % size);
      waiting = all.slice(whole);
      return encode(all.subarray(0, whole));
    },
    finish() {
      if (waiting.length === 0) return new Uint8Array(0);
      const last = new Int32Array(size);
      last.set(waiting);
      for (let at = waiting.length; at < size; at++) last[at] = last[at - channels];
      waiting = new Int32Array(0);
      return encode(last);
    },
  };
}

/** Joins one decoder for a block to a codec for any number of blocks. `decodeBlock` gives the frames that it wrote. */
export function blockCodec(
  { blockBytes, channels }: BlockLayout,
  unitFrames: number,
  decodeBlock: (block: Uint8Array, out: Float32Array) => number,
): Codec {
  const decode = (bytes: Uint8Array, room = new Room()): Float32Array => {
    const out = room.samples(0, Math.ceil(bytes.length / blockBytes) * unitFrames * channels);
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
    decodeChannels: (bytes, room) => deinterleave(decode(bytes, room), channels, room),
  };
}
