import { Room } from '../bytes/index.ts';
import { byteLayoutOf, type IntegerEncoding } from './encoding.ts';

/** Bits of a sample that are looked at: its upper ones. Sound is held in 32-bit floating point, which keeps 24. */
const USED_BITS = 32;

/** Signed PCM of five to eight whole bytes: such files are read, nothing takes them. */
function widePcm(bytes: 5 | 6 | 7 | 8, bigEndian: boolean): IntegerEncoding {
  const bits = 8 * bytes;
  // Place of byte k, 0 being the highest.
  const place = (k: number) => (bigEndian ? k : bytes - 1 - k);
  return {
    kind: 'integer',
    id: `pcm-s${bits}${bigEndian ? 'be' : 'le'}`,
    title: `${bits}-bit signed PCM${bigEndian ? ', big-endian' : ''}`,
    bitDepth: bits,
    bytesPerSample: bytes,
    linearBits: USED_BITS,
    companded: false,
    byteLayout: byteLayoutOf(bits, true, bigEndian),
    silence: (length) => new Uint8Array(length),
    decode(data, room = new Room()) {
      const out = room.samples(0, Math.floor(data.length / bytes));
      for (let i = 0, at = 0; i < out.length; i++, at += bytes) {
        let high = 0;
        for (let k = 0; k < 4; k++) high = (high << 8) | data[at + place(k)];
        out[i] = high / 2 ** 31;
      }
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length * bytes);
      for (let i = 0, at = 0; i < samples.length; i++, at += bytes) {
        for (let k = 0; k < 4; k++) out[at + place(k)] = samples[i] >>> (24 - 8 * k);
      }
      return out;
    },
  };
}

/** All of them. */
export const wideEncodings: readonly IntegerEncoding[] = ([5, 6, 7, 8] as const).flatMap((bytes) => [
  widePcm(bytes, false),
  widePcm(bytes, true),
]);
