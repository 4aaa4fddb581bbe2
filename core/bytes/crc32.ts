import { AT_ONCE, checksum } from '../kernel/checksum.ts';

/**
 * CRC-32 with the polynomial of ISO/IEC 3309 and ITU-T V.42, bits reversed (from memory). Eight tables of 256: what a byte
 * comes to with none, one ... seven more after it, so that eight bytes are taken at a time.
 */
const TABLES = new Int32Array(AT_ONCE * 256);
for (let byte = 0; byte < 256; byte++) {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  TABLES[byte] = value;
}
for (let i = 256; i < TABLES.length; i++) TABLES[i] = (TABLES[i - 256] >>> 8) ^ TABLES[TABLES[i - 256] & 255];

/** The checksum of bytes that come piece by piece: pass the last result to go on. */
export function crc32(bytes: Uint8Array, before = 0): number {
  const whole = bytes.length - (bytes.length % AT_ONCE);
  let value = checksum(bytes.subarray(0, whole), TABLES, ~before);
  for (let i = whole; i < bytes.length; i++) value = (value >>> 8) ^ TABLES[(value ^ bytes[i]) & 255];
  return ~value >>> 0;
}
