import { Room } from '../bytes/index.ts';
import { integersToFloats, splitIntegers } from '../kernel/samples.ts';
import { wholeDecoding } from './decoding.ts';
import { byteLayoutOf, type IntegerEncoding, zeroSamples } from './encoding.ts';

interface IntegerLayout {
  readonly bits: 8 | 16 | 24 | 32;
  readonly signed: boolean;
  readonly bigEndian?: boolean;
}

/** The integer that stands at `at`, moved up so that its sign bit is the 32nd. One function for each size: a loop is slow. */
const LEFT_JUSTIFIED: Readonly<Record<1 | 2 | 3 | 4, (bytes: Uint8Array, at: number, big: boolean) => number>> = {
  1: (bytes, at) => bytes[at] << 24,
  2: (bytes, at, big) => (big ? (bytes[at] << 24) | (bytes[at + 1] << 16) : (bytes[at + 1] << 24) | (bytes[at] << 16)),
  3: (bytes, at, big) =>
    (bytes[at + 1] << 16) | (big ? (bytes[at] << 24) | (bytes[at + 2] << 8) : (bytes[at + 2] << 24) | (bytes[at] << 8)),
  4: (bytes, at, big) =>
    big
      ? (bytes[at] << 24) | (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3]
      : (bytes[at + 3] << 24) | (bytes[at + 2] << 16) | (bytes[at + 1] << 8) | bytes[at],
};

/** Hz at which samples of so many bits are usually found without a header (common practice, no source). */
const USUAL_RATES = { 8: 16_000, 16: 44_100, 24: 48_000, 32: 48_000 } as const;

/** Linear PCM of whole bytes. Unsigned samples have their zero in the middle of the range. */
function integerPcm({ bits, signed, bigEndian = false }: IntegerLayout): IntegerEncoding {
  const bytesPerSample = (bits / 8) as 1 | 2 | 3 | 4;
  const scale = 2 ** (bits - 1);
  const order = bits === 8 ? '' : bigEndian ? 'be' : 'le';
  const integerAt = LEFT_JUSTIFIED[bytesPerSample];
  // Most files are of this kind, so it is read by a compiled loop.
  const isPlain16 = bits === 16 && signed && !bigEndian;
  // Position of byte k (0 = least significant) inside a sample.
  const place = (k: number) => (bigEndian ? bytesPerSample - 1 - k : k);
  return {
    kind: 'integer',
    id: `pcm-${signed ? 's' : 'u'}${bits}${order}`,
    title: `${bits}-bit ${signed ? 'signed' : 'unsigned'} PCM${order === 'be' ? ', big-endian' : ''}`,
    bitDepth: bits,
    bytesPerSample,
    linearBits: bits,
    companded: false,
    isUnsigned: !signed,
    byteLayout: byteLayoutOf(bits, signed, bigEndian),
    silence(length) {
      return zeroSamples(this.encode(new Int32Array(1)), length);
    },
    decoding: () => wholeDecoding(bits, signed, bigEndian, false),
    ...(signed || bits <= 16
      ? { bare: { usualRate: USUAL_RATES[bits], isRare: bits > 16 || (bits === 16 && !signed) } }
      : {}),
    decode(bytes, room = new Room()) {
      const out = room.samples(0, Math.floor(bytes.length / bytesPerSample));
      if (isPlain16) {
        integersToFloats(bytes, out);
        return out;
      }
      // Unsigned samples become signed ones when their highest bit is turned round.
      const flip = signed ? 0 : 1 << 31;
      for (let i = 0, at = 0; i < out.length; i++, at += bytesPerSample) {
        out[i] = (integerAt(bytes, at, bigEndian) ^ flip) / 2 ** 31;
      }
      return out;
    },
    ...(isPlain16 ? { decodePair: splitIntegers } : {}),
    encode(samples) {
      const out = new Uint8Array(samples.length * bytesPerSample);
      for (let i = 0, at = 0; i < samples.length; i++, at += bytesPerSample) {
        const value = signed ? samples[i] : samples[i] + scale;
        for (let k = 0; k < bytesPerSample; k++) out[at + place(k)] = value >>> (8 * k);
      }
      return out;
    },
  };
}

export const pcmU8 = integerPcm({ bits: 8, signed: false });
export const pcmS8 = integerPcm({ bits: 8, signed: true });
export const pcmU16 = integerPcm({ bits: 16, signed: false });
export const pcmU16be = integerPcm({ bits: 16, signed: false, bigEndian: true });
export const pcmU24 = integerPcm({ bits: 24, signed: false });
export const pcmU24be = integerPcm({ bits: 24, signed: false, bigEndian: true });
export const pcmU32 = integerPcm({ bits: 32, signed: false });
export const pcmU32be = integerPcm({ bits: 32, signed: false, bigEndian: true });
export const pcmS16 = integerPcm({ bits: 16, signed: true });
export const pcmS16be = integerPcm({ bits: 16, signed: true, bigEndian: true });
export const pcmS24 = integerPcm({ bits: 24, signed: true });
export const pcmS32 = integerPcm({ bits: 32, signed: true });
export const pcmS24be = integerPcm({ bits: 24, signed: true, bigEndian: true });
export const pcmS32be = integerPcm({ bits: 32, signed: true, bigEndian: true });
