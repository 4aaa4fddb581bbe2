import { type ByteFile, viewOf } from '@tambur/core';
import { text } from './format.ts';

/** A box of an MPEG-4 or QuickTime file (ISO/IEC 14496-12, 4.2; from memory). */
export interface Box {
  readonly type: string;
  readonly start: number;
  /** After its header. */
  readonly body: number;
  readonly end: number;
}

const MOST_BOXES = 100_000;
/** Of a box whose size fits into 32 bits. */
const BOX_HEADER = 8;

/** The boxes between two places, one after the other. */
export function boxesOf(file: ByteFile, start: number, end: number): Box[] {
  const boxes: Box[] = [];
  for (let at = start; at + 8 <= end && boxes.length < MOST_BOXES; ) {
    const head = file.read(at, at + 16);
    const view = viewOf(head);
    if (head.length < 8) break;
    const short = view.getUint32(0);
    if (short === 1 && head.length < 16) break;
    // 1: the size follows in 64 bits; 0: the box goes on to the end.
    const size = short === 1 ? Number(view.getBigUint64(8)) : short === 0 ? end - at : short;
    if (size < (short === 1 ? 16 : 8)) break;
    boxes.push({ type: text(head, 4, 4), start: at, body: at + (short === 1 ? 16 : 8), end: at + size });
    at += size;
  }
  return boxes;
}

/** A box inside another one. */
export const boxIn = (file: ByteFile, parent: Box | undefined, type: string, skip = 0): Box | undefined =>
  parent && boxesOf(file, parent.body + skip, parent.end).find((entry) => entry.type === type);

/** Where bytes are in a file. */
export interface Range {
  readonly start: number;
  readonly end: number;
}

/** The tables of one track (ISO/IEC 14496-12, 8.7), as their boxes hold them; empty if there is none. */
export interface SampleTables {
  readonly sizes: Uint8Array;
  readonly chunks: Uint8Array;
  readonly longChunks: Uint8Array;
  readonly perChunk: Uint8Array;
}

/** Numbers of 32 bits from a table: as many as its count says and its bytes hold. */
function entriesOf(table: Uint8Array, countAt: number, width: number): { count: number; at: (i: number) => number } {
  if (table.length < countAt + 4) return { count: 0, at: () => 0 };
  const view = viewOf(table);
  const from = countAt + 4;
  const count = Math.min(view.getUint32(countAt), Math.floor((table.length - from) / width));
  return {
    count,
    at: (i) => (width === 8 ? Number(view.getBigUint64(from + i * 8)) : view.getUint32(from + i * width)),
  };
}

/** The chunks of a track: where each begins and how many samples stand in it. */
function* chunksOf({ chunks, longChunks, perChunk }: SampleTables): Generator<{ start: number; samples: number }> {
  const places = longChunks.length ? entriesOf(longChunks, 4, 8) : entriesOf(chunks, 4, 4);
  // First chunk, samples in each, and a description.
  const runs = entriesOf(perChunk, 4, 12);
  const view = viewOf(perChunk);
  let run = 0;
  for (let i = 0; i < places.count; i++) {
    while (run + 1 < runs.count && runs.at(run + 1) <= i + 1) run++;
    yield { start: places.at(i), samples: runs.count ? view.getUint32(8 + run * 12 + 4) : 1 };
  }
}

/** No sample of compressed sound is larger; what claims to be is left out. */
const LARGEST_SAMPLE = 1 << 20;

/** Every sample of compressed sound, in order. What lies outside the file is left out. */
export function* sampleRanges(tables: SampleTables, fileSize: number): Generator<Range> {
  const { sizes } = tables;
  if (sizes.length < 12) return;
  const fixed = viewOf(sizes).getUint32(4);
  const each = entriesOf(sizes, 8, 4);
  const count = fixed > 0 ? Math.min(viewOf(sizes).getUint32(8), Math.floor(fileSize / fixed)) : each.count;
  let sample = 0;
  for (const { start, samples } of chunksOf(tables)) {
    let at = start;
    for (let i = 0; i < samples && sample < count; i++) {
      const size = fixed || each.at(sample);
      sample++;
      if (size > 0 && size <= LARGEST_SAMPLE && at + size <= fileSize) yield { start: at, end: at + size };
      at += size;
    }
    if (sample >= count) return;
  }
}

/** Plain samples: the chunks one after the other, each of so many frames of so many bytes. */
export function* plainRanges(tables: SampleTables, frameBytes: number, fileSize: number): Generator<Range> {
  for (const { start, samples } of chunksOf(tables)) {
    const end = Math.min(fileSize, start + samples * frameBytes);
    if (end > start) yield { start, end };
  }
}

/** Ranges of a file as a file of their own. */
export function joinedRanges(file: ByteFile, ranges: Iterable<Range>): ByteFile {
  /** Where each range begins in the joined file; neighbours are one. */
  const parts: { at: number; start: number; end: number }[] = [];
  let size = 0;
  for (const { start, end } of ranges) {
    const last = parts[parts.length - 1];
    if (last?.end === start) last.end = end;
    else parts.push({ at: size, start, end });
    size += end - start;
  }
  const partAt = (place: number): number => {
    let [low, high] = [0, parts.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((parts[middle]?.at ?? 0) <= place) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    size,
    read(from, to) {
      const end = Math.min(size, to);
      const out = new Uint8Array(Math.max(0, end - from));
      for (let at = from, i = partAt(from); at < end; i++) {
        const part = parts[i];
        if (!part) break;
        const begin = part.start + (at - part.at);
        const count = Math.min(end - at, part.end - begin);
        out.set(file.read(begin, begin + count), at - from);
        at += count;
      }
      return out;
    },
  };
}

/** Bits of a fragment's run that say which fields stand in it, and for each of its samples (ISO/IEC 14496-12, 8.8.8). */
const DATA_OFFSET = 0x1;
const FIRST_FLAGS = 0x4;
const DURATIONS = 0x100;
const SIZES = 0x200;
const FLAGS = 0x400;
const OFFSETS = 0x800;

/**
 * The samples that a fragment places, of one track.
 * @param moof the whole box, in memory: boxes in it may claim any size
 * @param start where it is in the file, which has `fileSize` bytes
 */
export function* fragmentRanges(
  moof: ByteFile,
  start: number,
  fileSize: number,
  track: { readonly id: number; readonly usualSize: number },
): Generator<Range> {
  for (const traf of boxesOf(moof, BOX_HEADER, moof.size)) {
    if (traf.type !== 'traf') continue;
    const header = boxIn(moof, traf, 'tfhd');
    const bytes = header ? moof.read(header.body, header.end) : new Uint8Array(0);
    if (bytes.length < 8) continue;
    const view = viewOf(bytes);
    if (view.getUint32(4) !== track.id) continue;
    const flags = view.getUint32(0) & 0xffffff;
    let at = 8;
    let base = start;
    let usual = track.usualSize;
    const has = (bytes: number) => at + bytes <= view.byteLength;
    if (flags & 0x1 && has(8)) base = Number(view.getBigUint64(at));
    if (flags & 0x1) at += 8;
    if (flags & 0x2) at += 4;
    if (flags & 0x8) at += 4;
    if (flags & 0x10 && has(4)) usual = view.getUint32(at);
    let next = base;
    for (const run of boxesOf(moof, traf.body, traf.end)) {
      if (run.type === 'trun') next = yield* runRanges(moof.read(run.body, run.end), { base, next, usual, fileSize });
    }
  }
}

function* runRanges(
  bytes: Uint8Array,
  { base, next, usual, fileSize }: { base: number; next: number; usual: number; fileSize: number },
): Generator<Range, number> {
  if (bytes.length < 8) return next;
  const view = viewOf(bytes);
  const flags = view.getUint32(0) & 0xffffff;
  let at = 8;
  let place = next;
  if (flags & DATA_OFFSET && at + 4 <= bytes.length) place = base + view.getInt32(at);
  if (flags & DATA_OFFSET) at += 4;
  if (flags & FIRST_FLAGS) at += 4;
  const width = [DURATIONS, SIZES, FLAGS, OFFSETS].reduce((sum, bit) => sum + (flags & bit ? 4 : 0), 0);
  const sizeAt = flags & DURATIONS ? 4 : 0;
  // A count is believed as far as the run's own bytes, or those of the file, hold so many.
  const most =
    width > 0 ? Math.floor(Math.max(0, bytes.length - at) / width) : usual > 0 ? Math.floor(fileSize / usual) : 0;
  const count = Math.min(view.getUint32(4), most);
  for (let i = 0; i < count; i++, at += width) {
    const size = flags & SIZES ? view.getUint32(at + sizeAt) : usual;
    if (place >= 0 && size > 0 && size <= LARGEST_SAMPLE && place + size <= fileSize) {
      yield { start: place, end: place + size };
    }
    place += size;
  }
  return place;
}
