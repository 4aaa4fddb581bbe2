import {
  type ByteFile,
  concatenated,
  findEncoding,
  formatChannels,
  formatRate,
  type SoundStream,
  type Tag,
  viewOf,
  windowed,
} from '@tambur/core';
import { describedPlainly, rawDecoding } from './aac.ts';
import { alacDecoding } from './alac.ts';
import { ALAC_ORDER, VORBIS_ORDER } from './channel-order.ts';
import { decodedStream } from './decoding.ts';
import { flacFrames, flacInfo, flacStream } from './flac-stream.ts';
import { chosen, damaged, depthOf, flacBits, type LibraryFormat, stated, text, unsupported } from './format.ts';
import { joinedRanges, type Range } from './mp4-samples.ts';
import { plainSound } from './plain-sound.ts';

// Taken apart here and not by the media library: that one does not know ALAC in it, and a reader of hostile files has to
// bound its own memory and work.

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
const TIMESTAMP = 0xe7;
const SIMPLE_BLOCK = 0xa3;
const BLOCK_GROUP = 0xa0;
const BLOCK = 0xa1;
const DISCARD_PADDING = 0x75a2;

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

/** No block of sound is larger; what claims to be is left out. */
const LARGEST_BLOCK = 1 << 20;

/** A block of one track's sound: where it is, and the group around it, where it has one. */
interface Block {
  readonly block: Element;
  readonly whole: Element;
  readonly cluster: Element;
}

/**
 * The blocks of one track, in order. Clusters are read through as if their elements stood in the segment itself, so that
 * those of unknown size need no care, and each byte is looked at once.
 */
function* blocksOf(file: ByteFile, segment: Element, track: number): Generator<Block> {
  let cluster: Element | null = null;
  for (let at = segment.body; at < segment.end; ) {
    const element = elementAt(file, at, segment.end);
    if (!element || element.end <= at) return;
    at = element.id === CLUSTER ? element.body : element.end;
    if (element.id === CLUSTER) cluster = element;
    if (!cluster || element.end - element.start > LARGEST_BLOCK) continue;
    const block =
      element.id === SIMPLE_BLOCK
        ? element
        : element.id === BLOCK_GROUP
          ? [...elementsOf(file, element.body, element.end)].find(({ id }) => id === BLOCK)
          : undefined;
    if (block && blockHeader(file.read(block.body, block.body + 3)).track === track) {
      yield { block, whole: element, cluster };
    }
  }
}

/** A block begins with the number of its track, from 127 on in two bytes, a time in two more, and flags. */
function blockHeader([first = 0, second = 0]: Uint8Array): { readonly track: number; readonly bytes: number } {
  return first >= 128 ? { track: first & 127, bytes: 4 } : { track: ((first & 63) << 8) | second, bytes: 5 };
}

/** The frames in a block: one, or several that are laced together (RFC 9559, section 10.3). */
function* framesOf(bytes: Uint8Array): Generator<Uint8Array> {
  const { bytes: header } = blockHeader(bytes);
  const lacing = ((bytes[header - 1] ?? 0) >> 1) & 3;
  if (lacing === 0) {
    yield bytes.subarray(header);
    return;
  }
  const count = (bytes[header] ?? 0) + 1;
  let at = header + 1;
  const sizes: number[] = [];
  if (lacing === 2) {
    const each = Math.floor((bytes.length - at) / count);
    for (let i = 1; i < count; i++) sizes.push(each);
  } else if (lacing === 1) {
    for (let i = 1; i < count; i++) {
      let size = 0;
      for (let byte = 255; byte === 255 && at < bytes.length; ) {
        byte = bytes[at++] ?? 0;
        size += byte;
      }
      sizes.push(size);
    }
  } else {
    // The first size as it is, then the differences, each a number of as many bytes as its first bits say.
    for (let i = 1; i < count && at < bytes.length; i++) {
      const length = Math.clz32(bytes[at] ?? 0) - 23;
      if (length > 4) return;
      let value = (bytes[at] ?? 0) & (0xff >> length);
      for (let k = 1; k < length; k++) value = value * 256 + (bytes[at + k] ?? 0);
      at += length;
      sizes.push(i === 1 ? value : (sizes[i - 2] ?? 0) + value - (2 ** (7 * length - 1) - 1));
    }
  }
  for (const size of sizes) {
    if (size < 0 || at + size > bytes.length) return;
    yield bytes.subarray(at, at + size);
    at += size;
  }
  yield bytes.subarray(at);
}

function* framesOfTrack(file: ByteFile, segment: Element, track: number): Generator<Uint8Array> {
  for (const { block } of blocksOf(file, segment, track)) yield* framesOf(file.read(block.body, block.end).slice());
}

/** Where the samples of plain sound are, which is never laced. */
function* plainRanges(file: ByteFile, segment: Element, track: number): Generator<Range> {
  for (const { block } of blocksOf(file, segment, track)) {
    const start = block.body + blockHeader(file.read(block.body, block.body + 3)).bytes;
    if (start < block.end) yield { start, end: block.end };
  }
}

/** An element's number, and a size of eight bytes that says it is not known. */
const UNKNOWN_SIZE = Uint8Array.of(0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff);

const numberOf = (id: number): Uint8Array => {
  const bytes = [id >>> 24, id >>> 16, id >>> 8, id].map((byte) => byte & 255);
  return Uint8Array.from(bytes.slice(bytes.findIndex((byte) => byte !== 0)));
};

/** An element with its content. */
function element(id: number, ...content: readonly Uint8Array[]): Uint8Array {
  const body = concatenated(content);
  const size = new Uint8Array(8);
  viewOf(size).setBigUint64(0, BigInt(body.length));
  size[0] = 0x01;
  return concatenated([numberOf(id), size, body]);
}

/** Of what is described once in a file, more is not read. */
const LONGEST_DESCRIPTION = 1 << 20;

/**
 * A file that holds one track alone and nothing else: descriptions, then the blocks of its sound, each in one piece. What
 * a decoder would have to wade through, or wait for, is not in it.
 */
function* onlyTrack(
  file: ByteFile,
  top: Children,
  segment: Element,
  entry: Element,
  track: number,
): Generator<Uint8Array> {
  const copy = ({ start, end }: Element) => file.read(start, Math.min(end, start + LONGEST_DESCRIPTION)).slice();
  const parts = new Children(file, segment);
  const ebml = top.all.find(({ id }) => id === EBML);
  const info = parts.all.find(({ id }) => id === INFO);
  yield concatenated([
    ...(ebml ? [copy(ebml)] : []),
    numberOf(SEGMENT),
    UNKNOWN_SIZE,
    ...(info ? [copy(info)] : []),
    element(TRACKS, copy(entry)),
  ]);
  let cluster: Element | null = null;
  for (const { whole, cluster: own } of blocksOf(file, segment, track)) {
    const start = own === cluster ? [] : [numberOf(CLUSTER), UNKNOWN_SIZE, element(TIMESTAMP, timestampOf(file, own))];
    cluster = own;
    yield concatenated([...start, copy(whole)]);
  }
}

/** The time of a cluster stands near its beginning. */
function timestampOf(file: ByteFile, { body, end }: Element): Uint8Array {
  for (const found of elementsOf(file, body, Math.min(end, body + 64))) {
    if (found.id === TIMESTAMP) return file.read(found.body, Math.min(found.end, found.body + 8)).slice();
  }
  return Uint8Array.of(0);
}

/**
 * Goes once through a track's blocks: bytes of its sound, and frames at 48 000 Hz that the last group discards, where it
 * says so in front of its block (RFC 9559, section 5.1.3.5.6): the library takes off only what is said after it.
 */
function surveyBlocks(file: ByteFile, segment: Element, track: number): { bytes: number; discarded: number } {
  let bytes = 0;
  let last: Block | null = null;
  for (const found of blocksOf(file, segment, track)) {
    const { block } = found;
    bytes += block.end - block.body - blockHeader(file.read(block.body, block.body + 3)).bytes;
    last = found;
  }
  if (last?.whole.id !== BLOCK_GROUP) return { bytes, discarded: 0 };
  const parts = [...elementsOf(file, last.whole.body, last.whole.end)];
  const block = parts.findIndex(({ id }) => id === BLOCK);
  const padding = parts.findIndex(({ id }) => id === DISCARD_PADDING);
  const found = parts[padding];
  if (!found || padding > block) return { bytes, discarded: 0 };
  const nanoseconds = whole(file.read(found.body, Math.min(found.end, found.body + 8)));
  return { bytes, discarded: Math.round((nanoseconds * 48_000) / 1e9) };
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
  const top = new Children(file, { id: 0, start: 0, body: 0, end: file.size });
  const docType = words(top.of(EBML).bytes(DOC_TYPE));
  const body = top.all.find(({ id }) => id === SEGMENT);
  if (!body) throw damaged('Matroska');
  const segment = new Children(file, body);
  const entries = segment.of(TRACKS).all.filter(({ id }) => id === TRACK_ENTRY);
  const tracks = entries.flatMap((entry) => readTrack(file, entry) ?? []);
  const found = chosen('Matroska', tracks, track);
  const { encoding, channels, sampleRate, bits } = found;
  if (!encoding) throw unsupported('Matroska', `sound in the encoding ${found.codec}`);
  const { bytes, discarded } = surveyBlocks(file, body, found.number);
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
    soundBytes: bytes || null,
    bitRate: isPlain ? bits * channels * sampleRate : null,
    bitRateMode: isPlain ? 'constant' : 'unknown',
    tracks: tracks.length > 1 ? tracks.map((entry, i) => ({ title: trackTitle(entry, i) })) : [],
    track,
    tags: readTags(segment),
  });
  // Of a file with several sounds this is the longest of them.
  const promised = tracks.length === 1 && seconds > 0 ? seconds * sampleRate : null;
  // Windows of their own: these go on while others read.
  const frames = () => framesOfTrack(windowed(source), body, found.number);
  const description = new Children(file, found.entry).bytes(CODEC_PRIVATE);
  if (encoding === 'aac' && description.length > 0) {
    const open = rawDecoding({ asc: describedPlainly(description) });
    return decodedStream('Matroska', open, frames, facts, { isWhole: true });
  }
  if (encoding === 'alac') {
    const open = alacDecoding('Matroska', description, null);
    return decodedStream('Matroska', open, frames, facts, { isWhole: true, order: ALAC_ORDER, promised });
  }
  // Codec's name and version do not precede it here, but its marker and the head of its first block do.
  if (encoding === 'flac') return flacStream(flacInfo(description.subarray(8)), facts, () => flacFrames(frames()));
  const plain = findEncoding(encoding);
  if (plain && plain.kind !== 'block')
    return plainSound(facts, plain, joinedRanges(source, plainRanges(file, body, found.number)));
  const pieces = () => onlyTrack(windowed(source), top, body, found.entry, found.number);
  return decodedStream('Matroska', 'mkv', pieces, facts, {
    isWhole: true,
    order: encoding === 'opus' || encoding === 'vorbis' ? VORBIS_ORDER : {},
    dropped: encoding === 'opus' ? discarded : 0,
    promised,
  });
}

/** Matroska and WebM. */
export const matroska: LibraryFormat = {
  title: 'Matroska',
  recognises: (head) => text(head, 0, 4) === String.fromCharCode(0x1a, 0x45, 0xdf, 0xa3),
  open,
};
