import { deinterleave } from '../audio/index.ts';
import { Room } from '../bytes/index.ts';
import type { BlockEncoding, BlockLayout, Codec } from './encoding.ts';
import { StepCoder, type StepRule } from './step-coder.ts';

/**
 * ADPCM codes one after the other, two in a byte, with nothing around them. Several channels take turns. A decoder has to
 * begin at the first byte. An odd number of samples is filled up with one code.
 * @param bits of a linear sample
 * @param first the half of a byte in which the earlier code stands
 */
export function nibbleStream(
  id: string,
  title: string,
  rule: StepRule,
  bits: number,
  first: 'low' | 'high',
): BlockEncoding {
  const scale = 2 ** (bits - 1);
  const shift = (k: number) => (((k & 1) === 0) === (first === 'low') ? 0 : 4);
  const coders = (channels: number) => Array.from({ length: channels }, () => new StepCoder(rule));

  const codec = (layout: BlockLayout): Codec => {
    const { channels } = layout;
    const state = coders(channels);
    let turn = 0;
    const decode = (bytes: Uint8Array, room = new Room()): Float32Array => {
      const out = room.samples(0, bytes.length * 2);
      for (let k = 0; k < out.length; k++) {
        out[k] = state[turn].decode((bytes[k >> 1] >> shift(k)) & 15) / scale;
        turn = (turn + 1) % channels;
      }
      return out;
    };
    // A unit is one byte of each channel: two frames.
    return {
      unitBytes: channels,
      unitFrames: 2,
      decode,
      decodeChannels: (bytes, room) => deinterleave(decode(bytes, room), channels, room),
      fromStart: () => codec(layout),
    };
  };

  return {
    kind: 'block',
    compression: 'lossy',
    id,
    title,
    bitDepth: 4,
    linearBits: bits,
    companded: true,
    // At the rate of telephones (common practice, no source).
    bare: { usualRate: 8000, isRare: true },
    spacing(samples, bytes, { channels }) {
      const state = coders(channels);
      return samples.map((_, k) => state[k % channels].decodeSpacing((bytes[k >> 1] >> shift(k)) & 15) / scale);
    },
    // A step up and one down, which are as small as they have become.
    silence: (bytes) => new Uint8Array(bytes).fill(0x08),
    decoding: () => ({ kind: 'nibbles', first, rule, shift: 16 - bits }),
    leastBlockBytes: (channels) => channels,
    layout: (channels) => ({ channels, blockBytes: channels }),
    bytesOf: (frames, { channels }) => Math.ceil((frames * channels) / 2),
    codec,
    encoder({ channels }) {
      const state = coders(channels);
      let count = 0;
      /** The earlier half of a byte, waiting for the later one. */
      let half = 0;
      const pack = (codes: Iterable<number>, length: number): Uint8Array => {
        const out = new Uint8Array(Math.floor(((count & 1) + length) / 2));
        let at = 0;
        for (const code of codes) {
          const part = code << shift(count);
          if (count & 1) out[at++] = half | part;
          else half = part;
          count++;
        }
        return out;
      };
      return {
        push(samples) {
          const codes = new Uint8Array(samples.length);
          for (let k = 0; k < codes.length; k++) codes[k] = state[(count + k) % channels].encode(samples[k]);
          return pack(codes, codes.length);
        },
        finish: () => (count & 1 ? pack([0], 1) : new Uint8Array(0)),
      };
    },
  };
}
