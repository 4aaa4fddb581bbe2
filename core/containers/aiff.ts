import {
  asciiBytes,
  type ByteFile,
  concatenated,
  latin1,
  latin1Bytes,
  partOf,
  viewOf,
  windowed,
} from '../bytes/index.ts';
import { encodingOf, frameCodec } from '../encodings/index.ts';
import { aroundSamples, type Container, type FileWriter, type Packing, type SoundFile, type Tag } from './container.ts';
import { checkFormat, cutOffWarning, headerCutOff, noFrames, unsupported } from './refusals.ts';

/**
 * AIFF and AIFF-C ("Audio Interchange File Format", version 1.3, and its compressed extension; from memory). Big-endian
 * throughout, but for the samples of the compression type `sowt`.
 */
interface Compression {
  readonly type: string;
  readonly title: string;
  /** Encodings by stored bytes for each sample. */
  readonly encodings: Readonly<Record<number, string>>;
  /** Stored bytes of those that are only read, as other programs take them for something else. */
  readonly onlyRead?: readonly number[];
}

const NONE: Compression = {
  type: 'NONE',
  title: 'not compressed',
  encodings: { 1: 'pcm-s8', 2: 'pcm-s16be', 3: 'pcm-s24be', 4: 'pcm-s32be' },
};

const COMPRESSIONS: readonly Compression[] = [
  NONE,
  { type: 'twos', title: '', encodings: NONE.encodings },
  {
    type: 'sowt',
    title: '',
    encodings: { 1: 'pcm-s8', 2: 'pcm-s16le', 3: 'pcm-s24le', 4: 'pcm-s32le' },
    // Many read 16 bits whatever is stated.
    onlyRead: [3, 4],
  },
  { type: 'fl32', title: '32-bit floating point', encodings: { 4: 'float-32be' } },
  { type: 'fl64', title: '64-bit floating point', encodings: { 8: 'float-64be' } },
  // G.711 states the 16 bits that it stands for.
  { type: 'ulaw', title: 'mu-law 2:1', encodings: { 1: 'mu-law', 2: 'mu-law' } },
  { type: 'alaw', title: 'A-law 2:1', encodings: { 1: 'a-law', 2: 'a-law' } },
];

const TEXT_CHUNKS: Readonly<Record<string, string>> = {
  NAME: 'title',
  AUTH: 'artist',
  '(c) ': 'copyright',
  ANNO: 'comment',
};

/** More chunks, and more of a text, are not read: no real file has as much. */
const MOST_CHUNKS = 1000;
const LONGEST_TEXT = 65_536;

/** Version of AIFF-C that the FVER chunk names. */
const AIFF_C_VERSION = 0xa2805140;

/** An 80-bit extended number, as the rate is stored: sign and exponent, then 64 bits of mantissa with its leading 1. */
function readExtended(view: DataView, at: number): number {
  const exponent = view.getUint16(at) & 0x7fff;
  const mantissa = view.getUint32(at + 2) * 2 ** 32 + view.getUint32(at + 6);
  return mantissa === 0 ? 0 : mantissa * 2 ** (exponent - 16383 - 63);
}

/** Whole numbers from 1 to 2^32 - 1. */
function writeExtended(view: DataView, at: number, value: number): void {
  const exponent = 31 - Math.clz32(value);
  view.setUint16(at, 16383 + exponent);
  view.setUint32(at + 2, (value << (31 - exponent)) >>> 0);
}

function read(file: ByteFile): SoundFile {
  const { read: bytesAt, size: fileSize } = windowed(file);
  const viewAt = (start: number, end: number) => {
    const bytes = bytesAt(start, end);
    return new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  };
  const textAt = (start: number, end: number) => latin1(bytesAt(start, end));
  const isCompressed = textAt(8, 12) === 'AIFC';
  const chunks: { id: string; at: number; stated: number }[] = [];
  for (let at = 12; at + 8 <= fileSize && chunks.length < MOST_CHUNKS; ) {
    const stated = viewAt(at, at + 8).getUint32(4);
    chunks.push({ id: textAt(at, at + 4), at: at + 8, stated });
    at += 8 + stated + (stated % 2);
  }
  const common = chunks.find(({ id }) => id === 'COMM');
  const sound = chunks.find(({ id }) => id === 'SSND');
  if (!common || common.at + (isCompressed ? 22 : 18) > fileSize) {
    throw headerCutOff('AIFF', 'before its format is stated');
  }
  const view = viewAt(common.at, common.at + 18);
  const channels = view.getUint16(0);
  const bits = view.getUint16(6);
  const sampleRate = Math.round(readExtended(view, 8));
  const type = isCompressed ? textAt(common.at + 18, common.at + 22) : 'NONE';
  const compression = COMPRESSIONS.find((entry) => entry.type.toLowerCase() === type.toLowerCase());
  const id = compression?.encodings[Math.ceil(bits / 8)];
  if (!compression || !id) throw unsupported('AIFF', `the compression type "${type}" with ${bits} bits a sample`);
  checkFormat('AIFF', channels, sampleRate);
  if (!sound || sound.at + 8 > fileSize) throw headerCutOff('AIFF', 'before its sound begins');

  const encoding = encodingOf(id);
  const codec = frameCodec(encoding, channels);
  const start = sound.at + 8 + viewAt(sound.at, sound.at + 4).getUint32(0);
  const stated = Math.max(0, sound.at + sound.stated - start);
  const found = Math.max(0, Math.min(stated, fileSize - start));
  const frames = Math.floor(found / codec.unitBytes);
  if (frames === 0) throw noFrames('AIFF');
  const isCompanded = encoding.kind === 'integer' && encoding.companded;
  const others = chunks.filter((chunk) => !['COMM', 'SSND', 'FVER'].includes(chunk.id));
  return {
    container: isCompressed ? 'aiff-c' : 'aiff',
    encoding,
    codec,
    ...(isCompanded || bits === encoding.bitDepth ? {} : { usedBits: bits }),
    sampleRate,
    channels,
    frames,
    dataAt: start,
    data: partOf(file, start, start + frames * codec.unitBytes),
    tags: others.flatMap((chunk) => {
      const name = TEXT_CHUNKS[chunk.id];
      const end = chunk.at + Math.min(chunk.stated, LONGEST_TEXT);
      return name ? [{ name, value: textAt(chunk.at, end) }] : [];
    }),
    extras: others.map((chunk) => ({
      name: chunk.id.trim(),
      bytes: Math.max(0, Math.min(chunk.stated, fileSize - chunk.at)),
    })),
    warnings: cutOffWarning(stated, found),
  };
}

/** A tag as a chunk of its own; nothing if there is none for it. */
function textChunk({ name, value }: Tag): Uint8Array {
  const id = Object.keys(TEXT_CHUNKS).find((key) => TEXT_CHUNKS[key] === name);
  if (!id) return new Uint8Array(0);
  const text = latin1Bytes(value);
  const out = new Uint8Array(8 + text.length + (text.length % 2));
  out.set(asciiBytes(id));
  viewOf(out).setUint32(4, text.length);
  out.set(text, 8);
  return out;
}

function write(
  { encoding, sampleRate, channels, frames, dataBytes, tags = [] }: Packing,
  compression: Compression | null,
): FileWriter {
  const title = compression ? asciiBytes(compression.title) : new Uint8Array(0);
  // A counted text takes one byte for its length and has an even size in all.
  const titleSize = compression ? title.length + 1 + ((title.length + 1) % 2) : 0;
  const commonSize = compression ? 22 + titleSize : 18;
  const versionSize = compression ? 12 : 0;
  const soundAt = 12 + versionSize + 8 + commonSize;
  const padding = dataBytes % 2;
  const out = new Uint8Array(soundAt + 16);
  const view = new DataView(out.buffer);
  const chunk = (at: number, id: string, size: number) => {
    out.set(asciiBytes(id), at);
    view.setUint32(at + 4, size);
  };
  const texts = concatenated(tags.map(textChunk));
  chunk(0, 'FORM', out.length + dataBytes + padding + texts.length - 8);
  out.set(asciiBytes(compression ? 'AIFC' : 'AIFF'), 8);
  if (compression) {
    chunk(12, 'FVER', 4);
    view.setUint32(20, AIFF_C_VERSION);
  }
  const common = 12 + versionSize + 8;
  chunk(common - 8, 'COMM', commonSize);
  view.setUint16(common, channels);
  view.setUint32(common + 2, frames);
  view.setUint16(common + 6, encoding.kind === 'integer' ? encoding.linearBits : encoding.bitDepth);
  writeExtended(view, common + 8, sampleRate);
  if (compression) {
    out.set(asciiBytes(compression.type), common + 18);
    out[common + 22] = title.length;
    out.set(title, common + 23);
  }
  chunk(soundAt, 'SSND', 8 + dataBytes);
  return aroundSamples(out, dataBytes, concatenated([new Uint8Array(padding), texts]));
}

const isForm = (bytes: Uint8Array, type: string) =>
  latin1(bytes.subarray(0, 4)) === 'FORM' && latin1(bytes.subarray(8, 12)) === type;

/** AIFF: PCM only. */
export const aiff: Container = {
  id: 'aiff',
  title: 'AIFF',
  extensions: ['aif', 'aiff'],
  describesItself: true,
  holdsTags: true,
  mostBytes: 2 ** 32 - 1,
  carries: Object.values(NONE.encodings),
  recognises: (bytes) => isForm(bytes, 'AIFF'),
  read,
  write: (packing) => {
    if (!aiff.carries.includes(packing.encoding.id)) throw new RangeError(`AIFF does not carry ${packing.encoding.id}`);
    return write(packing, null);
  },
};

/** Encodings that a compression type is written for. */
const written = ({ encodings, onlyRead = [] }: Compression): string[] =>
  Object.entries(encodings).flatMap(([bytes, id]) => (onlyRead.includes(Number(bytes)) ? [] : [id]));

/** AIFF-C: PCM of either byte order, floating point, G.711. */
export const aiffC: Container = {
  id: 'aiff-c',
  title: 'AIFF-C',
  extensions: ['aifc', 'aif'],
  describesItself: true,
  holdsTags: true,
  mostBytes: 2 ** 32 - 1,
  carries: [...new Set(COMPRESSIONS.flatMap(written))],
  recognises: (bytes) => isForm(bytes, 'AIFC'),
  read,
  write: (packing) => {
    const { id } = packing.encoding;
    const compression = COMPRESSIONS.find((entry) => written(entry).includes(id));
    if (!compression) throw new RangeError(`AIFF-C does not carry ${id}`);
    return write(packing, compression);
  },
};
