import { closeSync, fstatSync, fsyncSync, openSync, readSync, writeSync } from 'node:fs';
import { type ByteFile, type FileStore, Room } from '@tambur/core';
import { Growth } from './growth.ts';

/** A file on disk that is read in ranges. */
export interface DiskFile extends ByteFile {
  close(): void;
}

/**
 * @param size of a file that is not whole yet, the one that it will have
 * @throws the system's own error where the file cannot be opened or is none
 */
export function openDiskFile(path: string, size?: number): DiskFile {
  const handle = openSync(path, 'r');
  try {
    if (fstatSync(handle).isDirectory()) throw Object.assign(new Error(`${path} is a folder`), { code: 'EISDIR' });
    return { ...readable(handle, size), close: () => closeSync(handle) };
  } catch (error) {
    closeSync(handle);
    throw error;
  }
}

/**
 * A file on disk that is open only while a range is being read: a card may have more files than a process may open.
 * @throws the system's own error where there is no such file, here or when it is read
 */
export function diskFileAt(path: string): ByteFile {
  const file = openDiskFile(path);
  file.close();
  return {
    size: file.size,
    read(start, end, room) {
      const again = openDiskFile(path);
      try {
        return again.read(start, end, room);
      } finally {
        again.close();
      }
    },
  };
}

/**
 * A file that another thread is writing. Whoever reads it stands still until the bytes are there, and for good if they never
 * come: it belongs into a thread that can be ended.
 */
export function growingFile(path: string, growth: Growth): DiskFile {
  const size = growth.size();
  const file = openDiskFile(path, size);
  return {
    size,
    read(start, end, room) {
      growth.reaches(Math.min(end, size));
      return file.read(start, end, room);
    },
    close: () => file.close(),
  };
}

/** What an open file holds. */
function readable(handle: number, size = fstatSync(handle).size): ByteFile {
  return {
    size,
    read(start, end, room = new Room()) {
      const bytes = room.bytes(Math.max(0, Math.min(end, size) - start));
      const count = readSync(handle, bytes, 0, bytes.length, start);
      return count === bytes.length ? bytes : bytes.subarray(0, count);
    },
  };
}

/** A new file on disk that is written piece by piece and can then be read again. */
export interface DiskStore extends FileStore {
  readonly path: string;
  readonly growth: Growth;
  readonly size: number;
  /** Closes the file, what was written being safely on the disk. */
  close(): void;
}

/** Pieces are gathered up to so many bytes before they are written. */
const GATHERED = 1 << 20;

/** @throws the system's own error where the file exists or cannot be made */
export function createDiskStore(path: string): DiskStore {
  const handle = openSync(path, 'wx+');
  const pending = new Uint8Array(GATHERED);
  let filled = 0;
  let size = 0;
  const growth = new Growth();
  const put = (bytes: Uint8Array) => {
    for (let at = 0; at < bytes.length; ) at += writeSync(handle, bytes, at);
  };
  const empty = () => {
    put(pending.subarray(0, filled));
    filled = 0;
    growth.written(size);
  };
  return {
    path,
    growth,
    get size() {
      return size;
    },
    expect: (bytes) => growth.expect(bytes),
    write(bytes) {
      if (filled + bytes.length > GATHERED) empty();
      size += bytes.length;
      if (bytes.length > GATHERED) put(bytes);
      else {
        pending.set(bytes, filled);
        filled += bytes.length;
      }
    },
    amend({ at, bytes }) {
      empty();
      for (let done = 0; done < bytes.length; ) {
        done += writeSync(handle, bytes, done, bytes.length - done, at + done);
      }
    },
    written() {
      empty();
      growth.end(size);
      return readable(handle);
    },
    close() {
      fsyncSync(handle);
      closeSync(handle);
    },
  };
}
