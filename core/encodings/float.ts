import { Room } from '../bytes/index.ts';
import type { FloatEncoding } from './encoding.ts';

/** IEEE 754 numbers. Values that are no number are read as silence. */
function floatPcm(bits: 32 | 64, bigEndian = false): FloatEncoding {
  const little = !bigEndian;
  const bytesPerSample = bits / 8;
  return {
    kind: 'float',
    ...(bits === 32 ? { bare: { usualRate: 48_000, isRare: true } } : {}),
    // Of 32 bits 24 are sound.
    spacing: (samples) => new Float32Array(samples.length).fill(2 ** -23),
    byteLayout: { order: bigEndian ? 'big' : 'little', sign: null, packing: 'bytes' },
    silence: (length) => new Uint8Array(length),
    id: `float-${bits}${bigEndian ? 'be' : 'le'}`,
    title: `${bits}-bit float${bigEndian ? ', big-endian' : ''}`,
    bitDepth: bits,
    bytesPerSample,
    decode(bytes, room = new Room()) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      const out = room.samples(0, Math.floor(bytes.length / bytesPerSample));
      for (let i = 0; i < out.length; i++) {
        const at = i * bytesPerSample;
        const value = bits === 32 ? view.getFloat32(at, little) : view.getFloat64(at, little);
        out[i] = Number.isFinite(value) ? value : 0;
      }
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length * bytesPerSample);
      const view = new DataView(out.buffer);
      samples.forEach((value, i) => {
        if (bits === 32) view.setFloat32(i * 4, value, little);
        else view.setFloat64(i * 8, value, little);
      });
      return out;
    },
  };
}

export const float32 = floatPcm(32);
export const float64 = floatPcm(64);
export const float32be = floatPcm(32, true);
export const float64be = floatPcm(64, true);
