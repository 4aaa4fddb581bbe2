/** CRC-32 with the polynomial of ISO/IEC 3309 and ITU-T V.42, bits reversed (from memory). */
const TABLE = Int32Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  return value;
});

/** The checksum of bytes that come piece by piece: pass the last result to go on. */
export function crc32(bytes: Uint8Array, before = 0): number {
  let value = ~before;
  for (let i = 0; i < bytes.length; i++) value = (value >>> 8) ^ TABLE[(value ^ bytes[i]) & 255];
  return ~value >>> 0;
}
