import { formatBytes, InputError } from '../audio/index.ts';
import { type Encoding, encodingOf } from '../encodings/index.ts';
import { asciiBytes, latin1 } from './ascii.ts';
import type { Container, Extra, Packed, SoundFile, Tag } from './container.ts';

/**
 * RIFF/WAVE as in "Multimedia Programming Interface and Data Specifications 1.0" and the notes on
 * WAVEFORMATEXTENSIBLE; codec numbers as in RFC 2361 (all from memory). Little-endian throughout.
 */
const FORMAT_PCM = 0x0001;
const FORMAT_FLOAT = 0x0003;
const FORMAT_A_LAW = 0x0006;
const FORMAT_MU_LAW = 0x0007;
const FORMAT_EXTENSIBLE = 0xfffe;

/** Names of further codec numbers, so that a refusal can say what the file holds (RFC 2361, appendix A; from memory). */
const OTHER_FORMATS: Readonly<Record<number, string>> = {
  2: 'Microsoft ADPCM',
  17: 'IMA ADPCM',
  49: 'GSM 6.10',
  80: 'MPEG layer 2',
  85: 'MPEG layer 3',
};

/** The tail of a sub-format GUID that carries a plain codec number in its first two bytes. */
const GUID_TAIL = [0x00, 0x00, 0x00, 0x00, 0x10, 0x00, 0x80, 0x00, 0x00, 0xaa, 0x00, 0x38, 0x9b, 0x71];

/** Format tag and encoding, both ways. */
const FORMATS: readonly { tag: number; bits: number; encoding: string }[] = [
  { tag: FORMAT_PCM, bits: 8, encoding: 'pcm-u8' },
  { tag: FORMAT_PCM, bits: 16, encoding: 'pcm-s16le' },
  { tag: FORMAT_PCM, bits: 24, encoding: 'pcm-s24le' },
  { tag: FORMAT_PCM, bits: 32, encoding: 'pcm-s32le' },
  { tag: FORMAT_FLOAT, bits: 32, encoding: 'float-32le' },
  { tag: FORMAT_FLOAT, bits: 64, encoding: 'float-64le' },
  { tag: FORMAT_MU_LAW, bits: 8, encoding: 'mu-law' },
  { tag: FORMAT_A_LAW, bits: 8, encoding: 'a-law' },
];

/** Names of INFO entries that are tags in the common sense (RIFF INFO list; from memory). */
const INFO_NAMES: Readonly<Record<string, string>> = {
  INAM: 'title',
  IART: 'artist',
  IPRD: 'album',
  ICMT: 'comment',
  ICRD: 'date',
  IGNR: 'genre',
  ITRK: 'track',
  ISFT: 'software',
  ICOP: 'copyright',
};

interface Chunk {
  readonly id: string;
  /** Size that the chunk states. */
  readonly stated: number;
  /** What of it is in the file. */
  readonly bytes: Uint8Array;
}

function chunksOf(bytes: Uint8Array): Chunk[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 12; at + 8 <= bytes.length; ) {
    const stated = view.getUint32(at + 4, true);
    chunks.push({ id: latin1(bytes.subarray(at, at + 4)), stated, bytes: bytes.subarray(at + 8, at + 8 + stated) });
    // Chunks start at even places.
    at += 8 + stated + (stated % 2);
  }
  return chunks;
}

interface Format {
  readonly encoding: Encoding;
  readonly channels: number;
  readonly sampleRate: number;
}

function readFormat(bytes: Uint8Array): Format {
  if (bytes.length < 16) {
    throw new InputError('header-cut-off', 'The WAV file ends inside its header; get a complete copy of it.');
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const channels = view.getUint16(2, true);
  const sampleRate = view.getUint32(4, true);
  const bits = view.getUint16(14, true);
  let tag = view.getUint16(0, true);
  if (tag === FORMAT_EXTENSIBLE) {
    if (bytes.length < 40) {
      throw new InputError(
        'header-cut-off',
        'The WAV file ends inside its extended header; get a complete copy of it.',
      );
    }
    tag = GUID_TAIL.every((byte, i) => bytes[26 + i] === byte) ? view.getUint16(24, true) : FORMAT_EXTENSIBLE;
  }
  const format = FORMATS.find((entry) => entry.tag === tag && entry.bits === bits);
  if (!format) {
    const name = OTHER_FORMATS[tag] ?? `codec number 0x${tag.toString(16).padStart(4, '0')}`;
    throw new InputError(
      'unsupported-codec',
      `The WAV file holds ${name} with ${bits} bits a sample, which Tambur cannot read; save it as PCM first.`,
    );
  }
  if (channels === 0 || sampleRate === 0) {
    const what = channels === 0 ? 'no channel' : 'a sample rate of 0 Hz';
    throw new InputError('damaged', `The WAV file's header states ${what}; save it again from its source.`);
  }
  return { encoding: encodingOf(format.encoding), channels, sampleRate };
}

function readTags(chunk: Chunk): Tag[] {
  const { bytes } = chunk;
  if (latin1(bytes.subarray(0, 4)) !== 'INFO') return [];
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tags: Tag[] = [];
  for (let at = 4; at + 8 <= bytes.length; ) {
    const id = latin1(bytes.subarray(at, at + 4));
    const size = view.getUint32(at + 4, true);
    tags.push({ name: INFO_NAMES[id] ?? id, value: latin1(bytes.subarray(at + 8, at + 8 + size)) });
    at += 8 + size + (size % 2);
  }
  return tags;
}

function read(bytes: Uint8Array): SoundFile {
  const chunks = chunksOf(bytes);
  const formatChunk = chunks.find(({ id }) => id === 'fmt ');
  const dataChunk = chunks.find(({ id }) => id === 'data');
  if (!formatChunk) {
    throw new InputError('header-cut-off', 'The WAV file ends before its format is stated; get a complete copy of it.');
  }
  const { encoding, channels, sampleRate } = readFormat(formatChunk.bytes);
  if (!dataChunk) {
    throw new InputError('header-cut-off', 'The WAV file ends before its sound begins; get a complete copy of it.');
  }
  const frameBytes = encoding.bytesPerSample * channels;
  const frames = Math.floor(dataChunk.bytes.length / frameBytes);
  if (frames === 0) {
    throw new InputError('no-frames', 'The WAV file holds no sound: it has 0 frames; choose another file.');
  }
  const warnings: string[] = [];
  if (dataChunk.bytes.length < dataChunk.stated) {
    warnings.push(
      `The file is cut off: its header promises ${formatBytes(dataChunk.stated)} of sound, ` +
        `${formatBytes(dataChunk.bytes.length)} are there and are used.`,
    );
  }
  const extras: Extra[] = chunks
    .filter(({ id }) => id !== 'fmt ' && id !== 'data')
    .map(({ id, bytes: { length } }) => ({ name: id.trim(), bytes: length }));
  return {
    container: 'wav',
    encoding,
    sampleRate,
    channels,
    frames,
    data: dataChunk.bytes.subarray(0, frames * frameBytes),
    tags: chunks.filter(({ id }) => id === 'LIST').flatMap(readTags),
    extras,
    warnings,
  };
}

function write({ encoding, sampleRate, channels, frames, data }: Packed): Uint8Array {
  const format = FORMATS.find((entry) => entry.encoding === encoding.id);
  if (!format) throw new RangeError(`WAV does not carry ${encoding.id}`);
  const pcm = format.tag === FORMAT_PCM;
  // Everything but PCM has an extension size and a fact chunk with the frame count.
  const formatSize = pcm ? 16 : 18;
  const factSize = pcm ? 0 : 12;
  const dataAt = 12 + 8 + formatSize + factSize + 8;
  const padding = data.length % 2;
  const out = new Uint8Array(dataAt + data.length + padding);
  const view = new DataView(out.buffer);
  const chunk = (at: number, id: string, size: number) => {
    out.set(asciiBytes(id), at);
    view.setUint32(at + 4, size, true);
  };
  chunk(0, 'RIFF', out.length - 8);
  out.set(asciiBytes('WAVE'), 8);
  chunk(12, 'fmt ', formatSize);
  const frameBytes = encoding.bytesPerSample * channels;
  view.setUint16(20, format.tag, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * frameBytes, true);
  view.setUint16(32, frameBytes, true);
  view.setUint16(34, format.bits, true);
  if (!pcm) {
    chunk(38, 'fact', 4);
    view.setUint32(46, frames, true);
  }
  chunk(dataAt - 8, 'data', data.length);
  out.set(data, dataAt);
  return out;
}

/** RIFF/WAVE. */
export const wav: Container = {
  id: 'wav',
  title: 'WAV',
  extensions: ['wav'],
  describesItself: true,
  carries: FORMATS.map(({ encoding }) => encoding),
  recognises: (bytes) =>
    latin1(bytes.subarray(0, 4)) === 'RIFF' && (bytes.length < 12 || latin1(bytes.subarray(8, 12)) === 'WAVE'),
  read,
  write,
};
