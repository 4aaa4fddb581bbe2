import { Room } from '../bytes/index.ts';
import { wholeDecoding } from './decoding.ts';
import { byteLayoutOf, type IntegerEncoding, zeroSamples } from './encoding.ts';

/** PCM samples of 1 to 31 bits, each in as many whole bytes as it needs. */
export interface OddPcm {
  readonly bits: number;
  readonly signed: boolean;
  /** Of samples of two bytes and more. */
  readonly bigEndian: boolean;
  /** True if the samples are at the high end of their bytes, zeros below; otherwise at the low end, as a number. */
  readonly left: boolean;
}

const bytesFor = (bits: number) => Math.ceil(bits / 8);

export function oddPcmId({ bits, signed, bigEndian, left }: OddPcm): string {
  const order = bytesFor(bits) === 1 ? '' : bigEndian ? 'be' : 'le';
  return `pcm-${signed ? 's' : 'u'}${bits}${order}${left ? '-left' : ''}`;
}

/**
 * Linear PCM of a depth that fills no whole bytes: what a converter of 12 bits or a ladder of resistors on five pins
 * takes. Unsigned samples have their zero in the middle of the range. Unused bits are left alone when read; written,
 * those above a low sample continue its sign.
 */
export function oddPcm(layout: OddPcm): IntegerEncoding {
  const { bits, signed, bigEndian, left } = layout;
  const bytes = bytesFor(bits);
  const scale = 2 ** (bits - 1);
  const rest = 8 * bytes - bits;
  const place = (k: number) => (bigEndian ? bytes - 1 - k : k);
  const order = bytes > 1 && bigEndian ? ', big-endian' : '';
  return {
    kind: 'integer',
    id: oddPcmId(layout),
    title: `${bits}-bit ${signed ? 'signed' : 'unsigned'} PCM${order}${left ? ', left-justified' : ''}`,
    bitDepth: bits,
    bytesPerSample: bytes,
    linearBits: bits,
    companded: false,
    isUnsigned: !signed,
    byteLayout: byteLayoutOf(bits, signed, bigEndian),
    silence(length) {
      return zeroSamples(this.encode(new Int32Array(1)), length);
    },
    decoding: () => wholeDecoding(bits, signed, bigEndian, left),
    decode(data, room = new Room()) {
      const out = room.samples(0, Math.floor(data.length / bytes));
      for (let i = 0, at = 0; i < out.length; i++, at += bytes) {
        let word = 0;
        for (let k = 0; k < bytes; k++) word |= data[at + place(k)] << (8 * k);
        // The sample's sign bit goes to the top, whatever stands above it falls off.
        const high = (left ? word >> rest : word) << (32 - bits);
        out[i] = (signed ? high >> (32 - bits) : (high >>> (32 - bits)) - scale) / scale;
      }
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length * bytes);
      for (let i = 0, at = 0; i < samples.length; i++, at += bytes) {
        const value = signed ? samples[i] : samples[i] + scale;
        const word = left ? value << rest : value;
        for (let k = 0; k < bytes; k++) out[at + place(k)] = word >>> (8 * k);
      }
      return out;
    },
  };
}
