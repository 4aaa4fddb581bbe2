import { FLOAT, inPieces, ROOM, reserve, sharedMemory } from './memory.ts';

/** Bytes that are taken at a time: as many tables of 256 are needed, of what a byte comes to with none, one ... after it. */
export const AT_ONCE = 8;

const IN = reserve(ROOM);
const TABLES = reserve(AT_ONCE * 256 * FLOAT);
/** What stands at TABLES. */
let loaded: Int32Array | null = null;

/** Goes on with a CRC of 32 bits, its bits reversed, over a multiple of eight bytes. Tables are not changed once they are used. */
export function checksum(bytes: Uint8Array, tables: Int32Array, before: number): number {
  const kernel = sharedMemory();
  if (!kernel) return checksumTwin(bytes, tables, before);
  if (loaded !== tables) kernel.integers.set(tables, TABLES / FLOAT);
  loaded = tables;
  let value = before;
  inPieces(bytes.length, (at, length) => {
    kernel.bytes.set(bytes.subarray(at, at + length), IN);
    value = kernel.run.crc32(IN, TABLES, length, value);
  });
  return value;
}

export function checksumTwin(bytes: Uint8Array, tables: Int32Array, before: number): number {
  let value = before;
  for (let i = 0; i < bytes.length; i += AT_ONCE) {
    value =
      tables[1792 + ((value ^ bytes[i]) & 255)] ^
      tables[1536 + (((value >>> 8) ^ bytes[i + 1]) & 255)] ^
      tables[1280 + (((value >>> 16) ^ bytes[i + 2]) & 255)] ^
      tables[1024 + ((value >>> 24) ^ bytes[i + 3])] ^
      tables[768 + bytes[i + 4]] ^
      tables[512 + bytes[i + 5]] ^
      tables[256 + bytes[i + 6]] ^
      tables[bytes[i + 7]];
  }
  return value;
}
