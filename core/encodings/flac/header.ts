import { crc8 } from './check-sums.ts';

/** What the header of a frame states (RFC 9639, 9.1). */
export interface FrameHeader {
  /** Size of the header with its checksum. */
  readonly bytes: number;
  /** Frames of sound in this one. */
  readonly frames: number;
  /** True if blocks differ in length: `number` then counts frames of sound, otherwise blocks. */
  readonly isVariable: boolean;
  readonly number: number;
  readonly channels: number;
}

/** No header is longer. */
export const LONGEST_HEADER = 16;

/** The length of a block by its code; 6 and 7: it stands at the header's end in one or two bytes. */
function blockFrames(code: number): number | null {
  if (code === 0) return null;
  if (code === 1) return 192;
  if (code <= 5) return 144 << code;
  return code <= 7 ? 0 : 1 << code;
}

/** Bytes of a coded number by its first one (RFC 9639, 9.1.5); 0 for none that begins so. */
function numberBytes(first: number): number {
  if (first < 0x80) return 1;
  const ones = Math.clz32(~(first << 24));
  return ones >= 2 && ones <= 7 ? ones : 0;
}

/** The header that stands at `at`; null if there is none. */
export function frameHeader(bytes: Uint8Array, at: number): FrameHeader | null {
  if (at + 6 > bytes.length || bytes[at] !== 0xff || (bytes[at + 1] & 0xfe) !== 0xf8) return null;
  const [second, third, fourth] = [bytes[at + 1], bytes[at + 2], bytes[at + 3]];
  const rate = third & 15;
  const pair = fourth >> 4;
  let frames = blockFrames(third >> 4);
  const length = numberBytes(bytes[at + 4]);
  // 15 is not a rate, 11 and more are no channels, 3 is not a depth, and the last bit is 0.
  if (frames === null || rate === 15 || pair > 10 || ((fourth >> 1) & 7) === 3 || fourth & 1 || length === 0)
    return null;
  const sizeBytes = frames > 0 ? 0 : (third >> 4) - 5;
  const rateBytes = rate === 12 ? 1 : rate > 12 ? 2 : 0;
  const end = at + 4 + length + sizeBytes + rateBytes;
  if (end >= bytes.length || crc8(bytes.subarray(at, end)) !== bytes[end]) return null;
  let number = length === 1 ? bytes[at + 4] : bytes[at + 4] & (0x7f >> length);
  for (let k = 1; k < length; k++) number = number * 64 + (bytes[at + 4 + k] & 63);
  const sizeAt = at + 4 + length;
  if (sizeBytes === 1) frames = bytes[sizeAt] + 1;
  if (sizeBytes === 2) frames = bytes[sizeAt] * 256 + bytes[sizeAt + 1] + 1;
  return {
    bytes: end + 1 - at,
    frames,
    isVariable: (second & 1) === 1,
    number,
    channels: pair < 8 ? pair + 1 : 2,
  };
}
