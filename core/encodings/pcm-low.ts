import type { IntegerEncoding } from './encoding.ts';

/**
 * Unsigned samples of a few bits, one in each byte, at its low end: what a ladder of resistors on so many pins of a
 * processor takes. The zero of the sound stands in the middle of the range. Bits above are left alone when read.
 */
function lowPcm(bits: number): IntegerEncoding {
  const scale = 2 ** (bits - 1);
  const mask = 2 ** bits - 1;
  return {
    kind: 'integer',
    id: `pcm-u${bits}`,
    title: `${bits}-bit unsigned PCM`,
    bitDepth: bits,
    bytesPerSample: 1,
    linearBits: bits,
    companded: false,
    isUnsigned: true,
    decode(bytes) {
      const out = new Float32Array(bytes.length);
      for (let i = 0; i < out.length; i++) out[i] = ((bytes[i] & mask) - scale) / scale;
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length);
      for (let i = 0; i < out.length; i++) out[i] = samples[i] + scale;
      return out;
    },
  };
}

export const pcmU4 = lowPcm(4);
export const pcmU5 = lowPcm(5);
export const pcmU6 = lowPcm(6);
export const pcmU7 = lowPcm(7);
