import { greatestCommonDivisor } from '../numbers/index.ts';
import { type BlockEncoding, blockCodec, blockEncoder, zeroSamples } from './encoding.ts';

/** PCM samples of 1 to 31 bits without a gap between them, across the borders of bytes. */
export interface PackedPcm {
  readonly bits: number;
  readonly signed: boolean;
  /** Which end of a byte, and of a sample, comes first. */
  readonly first: 'high' | 'low';
}

export const packedPcmId = ({ bits, signed, first }: PackedPcm): string =>
  `pcm-${signed ? 's' : 'u'}${bits}-packed${first === 'low' ? '-low' : ''}`;

/** Linear PCM, its bits packed. Unsigned samples have their zero in the middle of the range. */
export function packedPcm(packed: PackedPcm): BlockEncoding {
  const { bits, signed, first } = packed;
  const scale = 2 ** (bits - 1);
  // The fewest frames that end at the border of a byte are a block, so that each can be decoded on its own.
  const shared = greatestCommonDivisor(bits, 8);
  const unitFrames = 8 / shared;
  /** Where in a byte the bit is that comes as number `at`. */
  const bitOf = (at: number) => (first === 'high' ? 7 - (at & 7) : at & 7);
  /** Which bit of a sample comes as number `k`. */
  const weightOf = (k: number) => (first === 'high' ? bits - 1 - k : k);

  const decodeBlock = (block: Uint8Array, channels: number, out: Float32Array): number => {
    const samples = Math.floor((block.length * 8) / bits / channels) * channels;
    for (let i = 0, at = 0; i < samples; i++) {
      let value = 0;
      for (let k = 0; k < bits; k++, at++) value |= ((block[at >> 3] >> bitOf(at)) & 1) << weightOf(k);
      const high = value << (32 - bits);
      out[i] = (signed ? high >> (32 - bits) : (high >>> (32 - bits)) - scale) / scale;
    }
    return samples / channels;
  };

  const encodeBlock = (samples: Int32Array): Uint8Array => {
    const block = new Uint8Array(Math.ceil((samples.length * bits) / 8));
    for (let i = 0, at = 0; i < samples.length; i++) {
      const value = signed ? samples[i] : samples[i] + scale;
      for (let k = 0; k < bits; k++, at++) block[at >> 3] |= ((value >>> weightOf(k)) & 1) << bitOf(at);
    }
    return block;
  };

  return {
    kind: 'block',
    id: packedPcmId(packed),
    title: `${bits}-bit ${signed ? 'signed' : 'unsigned'} PCM, packed, ${first} bit first`,
    bitDepth: bits,
    linearBits: bits,
    companded: false,
    byteLayout: { order: null, sign: signed ? 'signed' : 'unsigned', packing: 'packed' },
    silence: (bytes) => zeroSamples(encodeBlock(new Int32Array(unitFrames)), bytes),
    decoding: () => ({ kind: 'packed', bits, signed, first }),
    leastBlockBytes: () => 1,
    layout: (channels) => ({ channels, blockBytes: (bits / shared) * channels }),
    bytesOf: (frames, { blockBytes }) => Math.ceil(frames / unitFrames) * blockBytes,
    codec(layout) {
      return blockCodec(layout, unitFrames, (block, out) => decodeBlock(block, layout.channels, out));
    },
    encoder: (layout) => blockEncoder(layout, unitFrames, encodeBlock),
  };
}
