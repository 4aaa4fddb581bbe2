/** Checksums of FLAC (RFC 9639, 9.1.8 and 9.3): polynomials x^8 + x^2 + x + 1 and x^16 + x^15 + x^2 + 1, from 0. */

const crc8Table = Uint8Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 0x80 ? (value << 1) ^ 0x07 : value << 1;
  return value;
});

const crc16Table = Uint16Array.from({ length: 256 }, (_, byte) => {
  let value = byte << 8;
  for (let bit = 0; bit < 8; bit++) value = value & 0x8000 ? (value << 1) ^ 0x8005 : value << 1;
  return value;
});

/** Of a frame's header. */
export function crc8(bytes: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < bytes.length; i++) sum = crc8Table[sum ^ bytes[i]];
  return sum;
}

/** Of a whole frame, going on from `sum`. Over a frame with its own sum after it, it is 0. */
export function crc16(bytes: Uint8Array, sum = 0, from = 0, to = bytes.length): number {
  let value = sum;
  for (let i = from; i < to; i++) value = ((value << 8) & 0xffff) ^ crc16Table[(value >> 8) ^ bytes[i]];
  return value;
}
