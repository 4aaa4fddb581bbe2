import type { FloatEncoding } from './encoding.ts';

/** IEEE 754 numbers, little-endian. Values that are no number are read as silence. */
function floatPcm(bits: 32 | 64): FloatEncoding {
  const bytesPerSample = bits / 8;
  return {
    kind: 'float',
    id: `float-${bits}le`,
    title: `${bits}-bit float`,
    bitDepth: bits,
    bytesPerSample,
    decode(bytes) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      const out = new Float32Array(Math.floor(bytes.length / bytesPerSample));
      for (let i = 0; i < out.length; i++) {
        const at = i * bytesPerSample;
        const value = bits === 32 ? view.getFloat32(at, true) : view.getFloat64(at, true);
        out[i] = Number.isFinite(value) ? value : 0;
      }
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length * bytesPerSample);
      const view = new DataView(out.buffer);
      samples.forEach((value, i) => {
        if (bits === 32) view.setFloat32(i * 4, value, true);
        else view.setFloat64(i * 8, value, true);
      });
      return out;
    },
  };
}

export const float32 = floatPcm(32);
export const float64 = floatPcm(64);
