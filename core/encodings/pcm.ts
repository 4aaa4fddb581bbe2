import type { IntegerEncoding } from './encoding.ts';

interface IntegerLayout {
  readonly bits: 8 | 16 | 24 | 32;
  readonly signed: boolean;
  readonly bigEndian?: boolean;
}

/** Linear PCM of whole bytes. Unsigned samples have their zero in the middle of the range. */
function integerPcm({ bits, signed, bigEndian = false }: IntegerLayout): IntegerEncoding {
  const bytesPerSample = bits / 8;
  const scale = 2 ** (bits - 1);
  const order = bits === 8 ? '' : bigEndian ? 'be' : 'le';
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
    decode(bytes) {
      const out = new Float32Array(Math.floor(bytes.length / bytesPerSample));
      for (let i = 0, at = 0; i < out.length; i++, at += bytesPerSample) {
        let value = 0;
        for (let k = 0; k < bytesPerSample; k++) value |= bytes[at + place(k)] << (8 * k);
        // Moves the sign bit to the top and back; unsigned samples are taken down by half their range first.
        const integer = signed ? (value << (32 - bits)) >> (32 - bits) : (value >>> 0) - scale;
        out[i] = integer / scale;
      }
      return out;
    },
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
export const pcmS16 = integerPcm({ bits: 16, signed: true });
export const pcmS16be = integerPcm({ bits: 16, signed: true, bigEndian: true });
export const pcmS24 = integerPcm({ bits: 24, signed: true });
export const pcmS32 = integerPcm({ bits: 32, signed: true });
export const pcmS24be = integerPcm({ bits: 24, signed: true, bigEndian: true });
export const pcmS32be = integerPcm({ bits: 32, signed: true, bigEndian: true });
