import {
  type ByteFile,
  findEncoding,
  formatChannels,
  formatRate,
  partOf,
  piecesOf,
  type SoundStream,
  type Tag,
  viewOf,
  windowed,
} from '@tambur/core';
import { ALAC_ORDER, VORBIS_ORDER } from './channel-order.ts';
import { decodedStream } from './decoding.ts';
import { chosen, depthOf, flacBits, type LibraryFormat, stated, text, unsupported } from './format.ts';

/** Numbers of elements (RFC 9559, section 5). */
const DOC_TYPE = 0x4282;
const EBML = 0x1a45dfa3;
const SEGMENT = 0x18538067;
const INFO = 0x1549a966;
const TIMESTAMP_SCALE = 0x2ad7b1;
const DURATION = 0x4489;
const TITLE = 0x7ba9;
const TRACKS = 0x1654ae6b;
const TRACK_ENTRY = 0xae;
const TRACK_NUMBER = 0xd7;
const TRACK_TYPE = 0x83;
const CODEC_ID = 0x86;
const CODEC_PRIVATE = 0x63a2;
const LANGUAGE = 0x22b59c;
const AUDIO = 0xe1;
const SAMPLING_FREQUENCY = 0xb5;
const CHANNELS = 0x9f;
const BIT_DEPTH = 0x6264;
const TAGS = 0x1254c367;
const TAG = 0x7373;
const TARGETS = 0x63c0;
const TAG_TRACK = 0x63c5;
const SIMPLE_TAG = 0x67c8;
const TAG_NAME = 0x45a3;
const TAG_STRING = 0x4487;
const CLUSTER = 0x1f43b675;
const SIMPLE_BLOCK = 0xa3;
const BLOCK_GROUP = 0xa0;
const BLOCK = 0xa1;
const DISCARD_PADDING = 0x75a2;
const VOID = 0xec;

const SOUND = 2;

interface Element {
  readonly id: number;
  readonly start: number;
  readonly body: number;
  readonly end: number;
}

/** The element at `at` (RFC 8794, sections 4 and 5): its number, and its size, which may be unknown. */
function elementAt(file: ByteFile, at: number, limit: number): Element | null {
  const bytes = file.read(at, Math.min(limit, at + 12));
  const idLength = Math.clz32(bytes[0] ?? 0) - 23;
  const sizeLength = Math.clz32(bytes[idLength] ?? 0) - 23;
  if (idLength > 4 || sizeLength > 8 || bytes.length < idLength + sizeLength) return null;
  let id = 0;
  for (let i = 0; i < idLength; i++) id = id * 256 + (bytes[i] ?? 0);
  let size = (bytes[idLength] ?? 0) & (0xff >> sizeLength);
  let isUnknown = size === 0xff >> sizeLength;
  for (let i = 1; i < sizeLength; i++) {
    const byte = bytes[idLength + i] ?? 0;
    isUnknown &&= byte === 0xff;
    size = size * 256 + byte;
  }
  const body = at + idLength + sizeLength;
  return { id, start: at, body, end: isUnknown ? limit : Math.min(limit, body + size) };
}

/** Elements one after the other; each takes at least two bytes. */
function* elementsOf(file: ByteFile, start: number, end: number): Generator<Element> {
  for (let at = start, count = 0; at < end && count < MOST_ELEMENTS; count++) {
    const element = elementAt(file, at, end);
    if (!element || element.end <= at) return;
    yield element;
    at = element.end;
  }
}

/** More elements than this on one level are not looked at. */
const MOST_ELEMENTS = 100_000;

const whole = (bytes: Uint8Array): number => bytes.reduce((sum, byte) => sum * 256 + byte, 0);

function float(bytes: Uint8Array): number {
  if (bytes.length === 4) return viewOf(bytes).getFloat32(0);
  return bytes.length === 8 ? viewOf(bytes).getFloat64(0) : 0;
}

const words = (bytes: Uint8Array): string => new TextDecoder().decode(bytes).replace(/\0+$/, '');

/** What an element holds, by number: the first of each kind. */
class Children {
  private readonly file: ByteFile;
  readonly all: readonly Element[];

  constructor(file: ByteFile, parent: Element | undefined) {
    this.file = file;
    this.all = parent ? [...elementsOf(file, parent.body, parent.end)] : [];
  }

  of(id: number): Children {
    return new Children(
      this.file,
      this.all.find((element) => element.id === id),
    );
  }

  each(id: number): Children[] {
    return this.all.filter((element) => element.id === id).map((element) => new Children(this.file, element));
  }

  bytes(id: number): Uint8Array {
    const found = this.all.find((element) => element.id === id);
    return found ? this.file.read(found.body, Math.min(found.end, found.body + LONGEST_VALUE)) : new Uint8Array(0);
  }
}

/** Of one value, more is not read. */
const LONGEST_VALUE = 4096;

/** Encodings by the beginning of the codec's name (RFC 9559, codec mappings; from memory), and by depth. */
const CODECS: readonly (readonly [string, (bits: number) => string])[] = [
  ['A_OPUS', () => 'opus'],
  ['A_VORBIS', () => 'vorbis'],
  ['A_AAC', () => 'aac'],
  ['A_ALAC', () => 'alac'],
  ['A_FLAC', () => 'flac'],
  ['A_MPEG/L3', () => 'mp3'],
  ['A_AC3', () => 'ac3'],
  ['A_PCM/INT/LIT', (bits) => (bits === 8 ? 'pcm-u8' : `pcm-s${bits}le`)],
  ['A_PCM/INT/BIG', (bits) => (bits === 8 ? 'pcm-u8' : `pcm-s${bits}be`)],
  ['A_PCM/FLOAT/IEEE', (bits) => `float-${bits}le`],
];

interface Track {
  readonly entry: Element;
  readonly number: number;
  readonly encoding: string | null;
  readonly codec: string;
  readonly channels: number;
  readonly sampleRate: number;
  readonly bits: number;
  readonly language: string;
}

function readTrack(file: ByteFile, entry: Element): Track | null {
  const parts = new Children(file, entry);
  if (whole(parts.bytes(TRACK_TYPE)) !== SOUND) return null;
  const audio = parts.of(AUDIO);
  const codec = words(parts.bytes(CODEC_ID));
  const isFlac = codec.startsWith('A_FLAC');
  // The description of FLAC knows better than the optional entry beside it.
  const bits = (isFlac && flacBits(parts.bytes(CODEC_PRIVATE))) || whole(audio.bytes(BIT_DEPTH)) || 16;
  return {
    entry,
    number: whole(parts.bytes(TRACK_NUMBER)),
    codec,
    encoding: CODECS.find(([name]) => codec.startsWith(name))?.[1](bits) ?? null,
    // What is not written down is 1 channel, 8 000 Hz, English.
    channels: whole(audio.bytes(CHANNELS)) || 1,
    sampleRate: Math.round(float(audio.bytes(SAMPLING_FREQUENCY))) || 8000,
    bits,
    language: words(parts.bytes(LANGUAGE)) || 'eng',
  };
}

function readTags(segment: Children): Tag[] {
  const title = words(segment.of(INFO).bytes(TITLE));
  const others = segment
    .each(TAGS)
    .flatMap((tags) => tags.each(TAG))
    // What is meant for one track alone are mostly counts.
    .filter((tag) => tag.of(TARGETS).bytes(TAG_TRACK).length === 0)
    .flatMap((tag) => tag.each(SIMPLE_TAG))
    .map((tag) => ({ name: words(tag.bytes(TAG_NAME)).toLowerCase(), value: words(tag.bytes(TAG_STRING)) }))
    .filter(({ name, value }) => name !== '' && value !== '');
  return [...(title ? [{ name: 'title', value: title }] : []), ...others];
}

/** The file with all descriptions of tracks but one turned into empty space; an entry's number is one byte. */
function* onlyTrack(file: ByteFile, entries: readonly Element[], kept: Element): Generator<Uint8Array> {
  let at = 0;
  for (const { start } of entries) {
    if (start === kept.start) continue;
    yield* piecesOf(partOf(file, at, start));
    yield Uint8Array.of(VOID);
    at = start + 1;
  }
  yield* piecesOf(partOf(file, at, file.size));
}

/** Bytes of a last cluster, at most, that are searched. */
const TAIL = 1 << 20;

/**
 * Frames at 48 000 Hz that the last group of blocks discards, where it says so in front of its block (RFC 9559, section
 * 5.1.3.5.6): the library takes off only what is said behind it.
 */
function discardedInFront(file: ByteFile): number {
  const start = Math.max(0, file.size - TAIL);
  for (let at = file.size - 1; at >= start; at--) {
    if (file.read(at, at + 1)[0] !== BLOCK_GROUP) continue;
    const group = elementAt(file, at, file.size);
    if (group?.id !== BLOCK_GROUP || group.end > file.size) continue;
    const parts = [...elementsOf(file, group.body, group.end)];
    const block = parts.findIndex(({ id }) => id === BLOCK);
    const padding = parts.findIndex(({ id }) => id === DISCARD_PADDING);
    if (block < 0 || parts[parts.length - 1]?.end !== group.end) continue;
    const found = parts[padding];
    if (!found || padding > block) return 0;
    const nanoseconds = file.read(found.body, found.end).reduce((sum, byte) => sum * 256 + byte, 0);
    return Math.round((nanoseconds * 48_000) / 1e9);
  }
  return 0;
}

/** Behind the number of its track a block has three bytes more of header. */
const BLOCK_HEADER = 3;

/** Bytes of one track's sound, as its blocks hold them. */
function soundBytesOf(file: ByteFile, segment: Children, number: number): number {
  let total = 0;
  const count = ({ body, end }: Element) => {
    const [first = 0, second = 0] = file.read(body, body + 2);
    // Numbers of tracks from 127 on take two bytes.
    const isShort = first >= 128;
    if ((isShort ? first & 127 : ((first & 63) << 8) | second) === number)
      total += end - body - BLOCK_HEADER - (isShort ? 1 : 2);
  };
  for (const cluster of segment.all) {
    if (cluster.id !== CLUSTER) continue;
    for (const element of elementsOf(file, cluster.body, cluster.end)) {
      if (element.id === SIMPLE_BLOCK) count(element);
      if (element.id !== BLOCK_GROUP) continue;
      for (const part of elementsOf(file, element.body, element.end)) if (part.id === BLOCK) count(part);
    }
  }
  return total;
}

const trackTitle = ({ encoding, codec, channels, sampleRate, language }: Track, i: number): string =>
  [
    `${i + 1}: ${encoding ?? codec}`,
    formatChannels(channels),
    formatRate(sampleRate),
    ...(language === 'und' ? [] : [language]),
  ].join(', ');

async function open(source: ByteFile, track: number): Promise<SoundStream> {
  const file = windowed(source);
  const top = [...elementsOf(file, 0, file.size)];
  const docType = words(
    new Children(
      file,
      top.find(({ id }) => id === EBML),
    ).bytes(DOC_TYPE),
  );
  const segment = new Children(
    file,
    top.find(({ id }) => id === SEGMENT),
  );
  const entries = segment.of(TRACKS).all.filter(({ id }) => id === TRACK_ENTRY);
  const tracks = entries.flatMap((entry) => readTrack(file, entry) ?? []);
  const found = chosen('Matroska', tracks, track);
  const { encoding, channels, sampleRate, bits } = found;
  if (!encoding) throw unsupported('Matroska', `sound in the encoding ${found.codec}`);
  const info = segment.of(INFO);
  const seconds = (float(info.bytes(DURATION)) * (whole(info.bytes(TIMESTAMP_SCALE)) || 1_000_000)) / 1e9;
  const isPlain = findEncoding(encoding) !== undefined;
  const facts = stated({
    container: docType === 'webm' ? 'webm' : 'matroska',
    encoding,
    sampleRate,
    channels,
    ...(encoding === 'flac' || encoding === 'alac' ? { bitDepth: bits, plainBits: bits } : depthOf(encoding)),
    bytes: file.size,
    soundBytes: soundBytesOf(file, segment, found.number) || null,
    bitRate: isPlain ? bits * channels * sampleRate : null,
    bitRateMode: isPlain ? 'constant' : 'unknown',
    tracks: tracks.length > 1 ? tracks.map((entry, i) => ({ title: trackTitle(entry, i) })) : [],
    track,
    tags: readTags(segment),
  });
  return decodedStream('Matroska', 'mkv', () => onlyTrack(source, entries, found.entry), facts, {
    order: encoding === 'alac' ? ALAC_ORDER : encoding === 'opus' || encoding === 'vorbis' ? VORBIS_ORDER : {},
    dropped: encoding === 'opus' ? discardedInFront(file) : 0,
    // Of a file with several sounds this is the longest of them.
    promised: tracks.length === 1 && seconds > 0 ? seconds * sampleRate : null,
  });
}

/** Matroska and WebM. */
export const matroska: LibraryFormat = {
  title: 'Matroska',
  recognises: (head) => text(head, 0, 4) === String.fromCharCode(0x1a, 0x45, 0xdf, 0xa3),
  open,
};
