import { type ByteFile, concatenated, inMemory } from '../bytes/index.ts';
import type { Amendment } from './library.ts';

/** Where the bytes of a finished file go, piece by piece. */
export interface FileStore {
  /** Told how large the file will be, where that is known before anything is written. */
  expect?(size: number): void;
  write(bytes: Uint8Array): void | Promise<void>;
  /** Puts other bytes in the place of some that were written. */
  amend(amendment: Amendment): void | Promise<void>;
  /** Everything that was written, to be read again. Asked for once, at the end. */
  written(): ByteFile;
}

/** Keeps the file in memory. */
export function memoryStore(): FileStore {
  const parts: Uint8Array[] = [];
  const amendments: Amendment[] = [];
  return {
    write: (bytes) => void parts.push(bytes),
    amend: (amendment) => void amendments.push(amendment),
    written() {
      const all = concatenated(parts);
      for (const { at, bytes } of amendments) all.set(bytes, at);
      return inMemory(all);
    },
  };
}
