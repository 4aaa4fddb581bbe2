import { concatenated, type Tag, viewOf } from '@tambur/core';
import { ascii } from './encoder.ts';

/** An MPEG-4 file of one AAC track (ISO/IEC 14496-12 and -14; from memory), its index first. */

const utf8 = new TextEncoder();
const u32s = (values: readonly number[]) => {
  const out = new Uint8Array(4 * values.length);
  const view = viewOf(out);
  values.forEach((value, i) => {
    view.setUint32(4 * i, value);
  });
  return out;
};
const u32 = (...values: readonly number[]) => u32s(values);
const u16 = (...values: readonly number[]) => Uint8Array.from(values.flatMap((value) => [value >> 8, value & 255]));
const zeros = (count: number) => new Uint8Array(count);

function box(type: string, ...contents: readonly Uint8Array[]): Uint8Array {
  const body = concatenated(contents);
  return concatenated([u32(8 + body.length), ascii(type), body]);
}

/** A box with a version and flags. */
const full = (type: string, flags: number, ...contents: readonly Uint8Array[]) => box(type, u32(flags), ...contents);

/** A descriptor with its size in one byte (ISO/IEC 14496-1, 8.3.3). */
const descriptor = (tag: number, ...contents: readonly Uint8Array[]) => {
  const body = concatenated(contents);
  return concatenated([Uint8Array.of(tag, body.length), body]);
};

const UNITY_MATRIX = u32(0x1_0000, 0, 0, 0, 0x1_0000, 0, 0, 0, 0x4000_0000);

/** Names of the tags in the list of items. */
const ITEMS: Readonly<Record<string, string>> = {
  title: '\u00a9nam',
  artist: '\u00a9ART',
  album: '\u00a9alb',
  albumArtist: 'aART',
  comment: '\u00a9cmt',
  genre: '\u00a9gen',
  date: '\u00a9day',
};

function userData(tags: readonly Tag[]): Uint8Array[] {
  const items = tags.flatMap(({ name, value }) => {
    const type = ITEMS[name];
    // Kind of data 1: text in UTF-8.
    return type ? [box(type, box('data', u32(1, 0), utf8.encode(value)))] : [];
  });
  if (items.length === 0) return [];
  const handler = full('hdlr', 0, u32(0), ascii('mdirappl'), zeros(9));
  return [box('udta', full('meta', 0, handler, box('ilst', ...items)))];
}

export interface AacTrack {
  readonly sampleRate: number;
  readonly channels: number;
  /** Bits per second, as ordered. */
  readonly bitRate: number;
  /** AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1). */
  readonly config: Uint8Array;
  readonly packets: readonly Uint8Array[];
  /** Frames in each packet. */
  readonly packetFrames: number;
  /** Frames that the decoder gives before the sound begins, and frames of the sound: what the edit list states. */
  readonly delay: number;
  readonly frames: number;
  readonly tags: readonly Tag[];
}

/** Packets between two entries of the index. */
const PER_CHUNK = 32;

/** The whole file. Times of making are left 0, so that the same sound gives the same bytes. */
export function mp4File(track: AacTrack): Uint8Array {
  const { packets } = track;
  const first = ascii('M4A ');
  const fileType = box('ftyp', first, u32(512), first, ascii('isom'), ascii('mp42'));
  const sound = concatenated(packets);
  // The index states places in the file, which depend on its own size.
  const size = movie(track, 0).length;
  const index = movie(track, fileType.length + size + 8);
  return concatenated([fileType, index, u32(8 + sound.length), ascii('mdat'), sound]);
}

function movie(track: AacTrack, soundAt: number): Uint8Array {
  const { sampleRate, frames, delay, tags } = track;
  const edit = box('edts', full('elst', 0, u32(1, frames, delay), u16(1, 0)));
  return box(
    'moov',
    full('mvhd', 0, u32(0, 0, sampleRate, frames, 0x1_0000), u16(0x100), zeros(10), UNITY_MATRIX, zeros(24), u32(2)),
    box(
      'trak',
      full('tkhd', 3, u32(0, 0, 1, 0, frames), zeros(8), u16(0, 0, 0x100, 0), UNITY_MATRIX, u32(0, 0)),
      edit,
      media(track, soundAt),
    ),
    ...userData(tags),
  );
}

function media(track: AacTrack, soundAt: number): Uint8Array {
  const { sampleRate, packets, packetFrames } = track;
  const UNDETERMINED = 0x55c4;
  return box(
    'mdia',
    full('mdhd', 0, u32(0, 0, sampleRate, packets.length * packetFrames), u16(UNDETERMINED, 0)),
    full('hdlr', 0, u32(0), ascii('soun'), zeros(13)),
    box(
      'minf',
      full('smhd', 0, u32(0)),
      box('dinf', full('dref', 0, u32(1), full('url ', 1))),
      sampleTable(track, soundAt),
    ),
  );
}

function sampleTable(track: AacTrack, soundAt: number): Uint8Array {
  const { sampleRate, channels, bitRate, config, packets, packetFrames } = track;
  const largest = packets.reduce((most, { length }) => Math.max(most, length), 0);
  const highest = Math.ceil((largest * 8 * sampleRate) / packetFrames);
  const decoder = descriptor(
    4,
    Uint8Array.of(0x40, 0x15, (largest >> 16) & 255, (largest >> 8) & 255, largest & 255),
    u32(Math.max(bitRate, highest), bitRate),
    descriptor(5, config),
  );
  const stream = full('esds', 0, descriptor(3, u16(1), zeros(1), decoder, descriptor(6, Uint8Array.of(2))));
  const entry = box('mp4a', zeros(6), u16(1), zeros(8), u16(channels, 16, 0, 0), u32(sampleRate * 0x1_0000), stream);
  const chunks: number[] = [];
  let at = soundAt;
  packets.forEach((packet, i) => {
    if (i % PER_CHUNK === 0) chunks.push(at);
    at += packet.length;
  });
  const last = packets.length % PER_CHUNK || PER_CHUNK;
  const runs =
    chunks.length > 1 && last !== PER_CHUNK
      ? [1, PER_CHUNK, 1, chunks.length, last, 1]
      : [1, chunks.length > 1 ? PER_CHUNK : last, 1];
  return box(
    'stbl',
    full('stsd', 0, u32(1), entry),
    full('stts', 0, u32(1, packets.length, packetFrames)),
    full('stsc', 0, u32(runs.length / 3, ...runs)),
    full('stsz', 0, u32(0, packets.length), u32s(packets.map(({ length }) => length))),
    full('stco', 0, u32(chunks.length), u32s(chunks)),
  );
}
