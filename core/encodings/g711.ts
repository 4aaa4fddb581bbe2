import { Room } from '../bytes/index.ts';
import { type ByteEncoder, byteDecoder, byteEncoder } from '../kernel/whole-numbers.ts';
import type { IntegerEncoding } from './encoding.ts';

/**
 * G.711 companding of 16-bit linear samples: mu-law takes the upper 14 bits, A-law the upper 13 (ITU-T G.711, tables 1
 * and 2; from memory). One byte: sign, 3 bits of segment, 4 bits of step.
 */

/** Added before the segment is found, so that every segment starts at a power of two; in 16-bit units. */
const MU_BIAS = 0x84;
const MU_CLIP = 32635;

function encodeMuLaw(sample: number): number {
  const sign = sample < 0 ? 0x80 : 0;
  const magnitude = Math.min(Math.abs(sample), MU_CLIP) + MU_BIAS;
  const segment = 24 - Math.clz32(magnitude);
  const step = (magnitude >> (segment + 3)) & 0x0f;
  return ~(sign | (segment << 4) | step) & 0xff;
}

function decodeMuLaw(byte: number): number {
  const code = ~byte & 0xff;
  const segment = (code >> 4) & 7;
  const magnitude = ((((code & 0x0f) << 3) + MU_BIAS) << segment) - MU_BIAS;
  return code & 0x80 && magnitude ? -magnitude : magnitude;
}

/** A-law inverts every other bit of its codes. */
const A_TOGGLE = 0x55;

function encodeALaw(sample: number): number {
  const magnitude = Math.min(Math.abs(sample), 32767) >> 3;
  const sign = sample < 0 ? 0 : 0x80;
  const segment = Math.max(0, 27 - Math.clz32(magnitude));
  const step = (magnitude >> Math.max(1, segment)) & 0x0f;
  return (sign | (segment << 4) | step) ^ A_TOGGLE;
}

function decodeALaw(byte: number): number {
  const code = byte ^ A_TOGGLE;
  const segment = (code >> 4) & 7;
  const base = ((code & 0x0f) << 4) + 8;
  const magnitude = segment === 0 ? base : (base + 0x100) << (segment - 1);
  return code & 0x80 ? magnitude : -magnitude;
}

/** The rules of decoding, line by line as above, for the programs of devices. */
const MU_LINES = {
  c: [
    'code = (uint8_t)~code;',
    'const int32_t size = ((((int32_t)(code & 15) << 3) + 132) << ((code >> 4) & 7)) - 132;',
    'return (int16_t)(code & 128 ? -size : size);',
  ],
  python: [
    'code = ~code & 255',
    'size = ((((code & 15) << 3) + 132) << ((code >> 4) & 7)) - 132',
    'yield -size if code & 128 else size',
  ],
  rust: [
    'let code = !code;',
    'let size = ((((code & 15) as i32) << 3) + 132 << ((code >> 4) & 7)) - 132;',
    '(if code & 128 != 0 { -size } else { size }) as i16',
  ],
};

const A_LINES = {
  c: [
    'code ^= 0x55;',
    'const uint8_t segment = (code >> 4) & 7;',
    'int32_t size = ((int32_t)(code & 15) << 4) + 8;',
    'if (segment > 0) size = (size + 256) << (segment - 1);',
    'return (int16_t)(code & 128 ? size : -size);',
  ],
  python: [
    'code ^= 0x55',
    'segment = (code >> 4) & 7',
    'size = ((code & 15) << 4) + 8',
    'if segment > 0:',
    '    size = (size + 256) << (segment - 1)',
    'yield size if code & 128 else -size',
  ],
  rust: [
    'let code = code ^ 0x55;',
    'let segment = (code >> 4) & 7;',
    'let mut size = (((code & 15) as i32) << 4) + 8;',
    'if segment > 0 { size = (size + 256) << (segment - 1); }',
    '(if code & 128 != 0 { size } else { -size }) as i16',
  ],
};

/** Both laws: segments of 16 levels, each segment's twice as far apart as those before (ITU-T G.711). */
const segmentSpacing = (value: number) => 2 ** (Math.max(0, Math.floor(Math.log2(Math.abs(value) + 1 / 256)) + 8) - 12);

function companded(
  id: string,
  title: string,
  encodeOne: (sample: number) => number,
  decodeOne: (byte: number) => number,
  lines: Readonly<Record<string, readonly string[]>>,
): IntegerEncoding {
  const decode = byteDecoder(Float32Array.from({ length: 256 }, (_, byte) => decodeOne(byte) / 32768));
  /** Made when first something is encoded. */
  let encode: ByteEncoder | undefined;
  return {
    kind: 'integer',
    bare: { usualRate: 8_000 },
    spacing: (samples) => samples.map(segmentSpacing),
    id,
    title,
    bitDepth: 8,
    bytesPerSample: 1,
    linearBits: 16,
    companded: true,
    silence: (bytes) => new Uint8Array(bytes).fill(encodeOne(0)),
    decoding: () => ({ kind: 'code', lines }),
    decode(bytes, room = new Room()) {
      const out = room.samples(0, bytes.length);
      decode(bytes, out);
      return out;
    },
    encode(samples) {
      const out = new Uint8Array(samples.length);
      encode ??= byteEncoder(Uint8Array.from({ length: 65_536 }, (_, i) => encodeOne(i - 32_768)));
      encode(samples, out);
      return out;
    },
  };
}

export const muLaw = companded('mu-law', 'mu-law', encodeMuLaw, decodeMuLaw, MU_LINES);
export const aLaw = companded('a-law', 'A-law', encodeALaw, decodeALaw, A_LINES);
