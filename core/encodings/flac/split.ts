import type { ByteFile } from '../../bytes/index.ts';
import { InputError } from '../../words/index.ts';
import { crc16 } from './check-sums.ts';
import { type FrameHeader, frameHeader, LONGEST_HEADER } from './header.ts';

/** A frame as it is in a file. */
export interface FlacFrame {
  readonly header: FrameHeader;
  /** Its bytes, header and checksum included; null if the checksum is not that of the bytes. */
  readonly bytes: Uint8Array | null;
}

/** Bytes of a damaged file that are looked at again and again, as a multiple of its size, before it is given up. */
const MOST_EFFORT = 64;
const PIECE = 1 << 18;

/** A frame is hardly ever longer than its samples are as they are: twice that is looked at. */
const longestFrame = ({ channels, frames }: FrameHeader): number => 8 * channels * frames + 4096;

/** True if `next` can be the header of a later frame of the same stream. */
const isLater = (header: FrameHeader, next: FrameHeader): boolean =>
  next.isVariable === header.isVariable && next.number > header.number;

/**
 * The frames of a FLAC stream, one after the other. A frame ends where its checksum comes out and the next one's header
 * stands, or the file ends: no other byte pattern is taken for an end, wherever pieces of the file are read. Bytes that
 * belong to no frame are passed over.
 */
export function* splitFrames(file: ByteFile): Generator<FlacFrame> {
  const window = new Window(file);
  let at = window.nextHeader(0);
  while (at !== null) {
    const header = window.headerAt(at);
    if (!header) return;
    const end = window.endOf(at, header);
    if (end !== null) {
      yield { header, bytes: window.bytes(at, end) };
      at = window.headerAt(end) ? end : window.nextHeader(end);
    } else {
      yield { header, bytes: null };
      at = window.nextHeader(at + 1);
    }
  }
}

/** A file seen through a moving window. */
class Window {
  private readonly file: ByteFile;
  private start = 0;
  private buffered: Uint8Array = new Uint8Array(0);
  /** Bytes that may still be looked at. */
  private effort: number;

  constructor(file: ByteFile) {
    this.file = file;
    this.effort = MOST_EFFORT * file.size + PIECE;
  }

  /** Bytes of their own: the window moves on. */
  bytes(from: number, to: number): Uint8Array {
    return this.around(from, to).slice(from - this.start, to - this.start);
  }

  headerAt(at: number): FrameHeader | null {
    return frameHeader(this.around(at, at + LONGEST_HEADER), at - this.start);
  }

  /** The next place where a header is; null if there is none before `limit`. */
  nextHeader(from: number, limit = this.file.size): number | null {
    for (let at = from; at < limit; at++) {
      const bytes = this.around(at, at + LONGEST_HEADER);
      const found = bytes.indexOf(0xff, at - this.start);
      this.spend((found < 0 ? bytes.length : found) + this.start - at);
      if (found < 0) {
        at = this.start + bytes.length - 1;
        continue;
      }
      at = this.start + found;
      if (this.headerAt(at)) return at;
    }
    return null;
  }

  /** Where the frame at `at` ends; null if its checksum does not come out. */
  endOf(at: number, header: FrameHeader): number | null {
    const limit = Math.min(this.file.size, at + longestFrame(header));
    let sum = 0;
    let summed = at;
    for (let next = at + header.bytes; next < limit; ) {
      const place = Math.min(limit, this.nextHeader(next, limit) ?? limit);
      sum = this.summed(summed, place, sum);
      summed = place;
      const follower = place < this.file.size ? this.headerAt(place) : null;
      const isEnd = follower ? isLater(header, follower) : place === this.file.size;
      if (isEnd && sum === 0) return place;
      next = place + 1;
    }
    return null;
  }

  /** The checksum of more bytes. */
  private summed(from: number, to: number, sum: number): number {
    let value = sum;
    for (let at = from; at < to; at += PIECE) {
      const end = Math.min(to, at + PIECE);
      const bytes = this.around(at, end);
      value = crc16(bytes, value, at - this.start, end - this.start);
    }
    this.spend(to - from);
    return value;
  }

  /** What the window holds, moved so that it holds `from` up to `to`, as far as the file goes. */
  private around(from: number, to: number): Uint8Array {
    const isInside = from >= this.start && Math.min(to, this.file.size) <= this.start + this.buffered.length;
    if (!isInside) {
      this.start = from;
      this.buffered = this.file.read(from, Math.max(to, from + 2 * PIECE));
    }
    return this.buffered;
  }

  private spend(bytes: number): void {
    this.effort -= bytes;
    if (this.effort < 0) {
      throw new InputError(
        'damaged',
        'The FLAC stream is damaged beyond finding its blocks; get a complete copy of it.',
      );
    }
  }
}
