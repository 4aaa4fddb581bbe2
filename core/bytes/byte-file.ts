import type { Room } from './room.ts';

/**
 * A file's bytes, read in ranges, so that memory does not grow with its size: a file on disk, or plain memory. Reading is
 * synchronous: whoever reads large files does it in a worker.
 */
export interface ByteFile {
  readonly size: number;
  /**
   * The bytes from `start` up to, but not including, `end`; fewer where the file ends before. Not to be written to.
   * @param room where they may be put
   */
  read(start: number, end: number, room?: Room): Uint8Array;
}

/** Bytes in memory; ranges are views into them. */
export function inMemory(bytes: Uint8Array): ByteFile {
  // Some kinds of byte array have a `slice` of their own that copies nothing; plain ones are what readers expect.
  const plain = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length);
  return { size: plain.length, read: (start, end) => plain.subarray(start, Math.max(start, end)) };
}

/** Pieces one after the other. */
export function concatenated(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}

/** Bytes seen as numbers. */
export const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.length);

/** A part of a file as a file of its own. */
export function partOf(file: ByteFile, start: number, end: number): ByteFile {
  const from = Math.min(Math.max(0, start), file.size);
  const size = Math.min(Math.max(from, end), file.size) - from;
  return { size, read: (at, to, room) => file.read(from + at, from + Math.min(size, to), room) };
}

/** Everything in one piece. */
export const wholeOf = (file: ByteFile): Uint8Array => file.read(0, file.size);

/** Bytes read at a time where a file is read through from its start to its end. */
const PIECE = 1 << 18;

/** The whole file in pieces of so many bytes. */
export function* piecesOf(file: ByteFile, size = PIECE): Generator<Uint8Array> {
  for (let at = 0; at < file.size; at += size) yield file.read(at, at + size);
}

/**
 * The same file read through a window, for many small reads close together. `at` gives a view that is valid until the
 * next call.
 */
export function windowed(file: ByteFile): ByteFile {
  let start = 0;
  let bytes: Uint8Array = new Uint8Array(0);
  return {
    size: file.size,
    read(from, to) {
      if (from < start || to > start + bytes.length) {
        start = from;
        bytes = file.read(from, Math.max(to, from + PIECE));
      }
      return bytes.subarray(from - start, Math.max(from, to) - start);
    },
  };
}
