export * from './ascii.ts';
export * from './byte-file.ts';
export * from './crc32.ts';
export * from './room.ts';
