import { type Encoding, encodingOf } from '../encodings/index.ts';
import { asciiBytes, latin1 } from './ascii.ts';
import type { Container, Extra, Packed, SoundFile, Tag } from './container.ts';
import { checkFormat, cutOffWarning, headerCutOff, noFrames, unsupported } from './refusals.ts';

/**
 * RIFF/WAVE as in "Multimedia Programming Interface and Data Specifications 1.0" and the notes on
 * WAVEFORMATEXTENSIBLE; codec numbers as in RFC 2361; RF64 as in EBU Tech 3306 (all from memory). Little-endian, but for
 * RIFX, which is the same in big-endian.
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

/** Format tag, stored bytes of a sample and encoding, both ways. */
const FORMATS: readonly { tag: number; bytes: number; encoding: string }[] = [
  { tag: FORMAT_PCM, bytes: 1, encoding: 'pcm-u8' },
  { tag: FORMAT_PCM, bytes: 2, encoding: 'pcm-s16le' },
  { tag: FORMAT_PCM, bytes: 3, encoding: 'pcm-s24le' },
  { tag: FORMAT_PCM, bytes: 4, encoding: 'pcm-s32le' },
  { tag: FORMAT_FLOAT, bytes: 4, encoding: 'float-32le' },
  { tag: FORMAT_FLOAT, bytes: 8, encoding: 'float-64le' },
  { tag: FORMAT_MU_LAW, bytes: 1, encoding: 'mu-law' },
  { tag: FORMAT_A_LAW, bytes: 1, encoding: 'a-law' },
];

/** Stated where a size is not known, or stands elsewhere. */
const NO_SIZE = 0xffffffff;

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

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

function chunksOf(bytes: Uint8Array, little: boolean): Chunk[] {
  const view = viewOf(bytes);
  const chunks: Chunk[] = [];
  let longSize: number | undefined;
  for (let at = 12; at + 8 <= bytes.length; ) {
    const id = latin1(bytes.subarray(at, at + 4));
    const start = at + 8;
    let stated = view.getUint32(at + 4, little);
    // RF64: the sizes that do not fit into 32 bits stand in a chunk of their own, the one of the data second.
    if (id === 'ds64' && start + 16 <= bytes.length) longSize = Number(view.getBigUint64(start + 8, little));
    if (id === 'data' && stated === NO_SIZE) stated = longSize ?? bytes.length - start;
    // A recorder that was cut off leaves a size of 0 before data that go on to the end.
    if (id === 'data' && stated === 0 && start < bytes.length && !startsChunk(bytes, start))
      stated = bytes.length - start;
    chunks.push({ id, stated, bytes: bytes.subarray(start, start + stated) });
    // Chunks start at even places.
    at = start + stated + (stated % 2);
  }
  return chunks;
}

/** True if four letters, as of a chunk's name, stand at `at`. */
const startsChunk = (bytes: Uint8Array, at: number) => /^[A-Za-z0-9 ]{4}$/.test(latin1(bytes.subarray(at, at + 4)));

interface Format {
  readonly encoding: Encoding;
  readonly channels: number;
  readonly sampleRate: number;
  /** Bits of a sample that carry sound. */
  readonly usedBits: number;
}

function readFormat(bytes: Uint8Array, little: boolean): Format {
  if (bytes.length < 16) throw headerCutOff('WAV', 'inside its header');
  const view = viewOf(bytes);
  const channels = view.getUint16(2, little);
  const sampleRate = view.getUint32(4, little);
  const frameBytes = view.getUint16(12, little);
  let bits = view.getUint16(14, little);
  let tag = view.getUint16(0, little);
  if (tag === FORMAT_EXTENSIBLE) {
    if (bytes.length < 40) throw headerCutOff('WAV', 'inside its extended header');
    tag = GUID_TAIL.every((byte, i) => bytes[26 + i] === byte) ? view.getUint16(24, little) : FORMAT_EXTENSIBLE;
  }
  checkFormat('WAV', channels, sampleRate);
  // Samples of odd depth stand left-justified in whole bytes; how many, the size of a frame tells.
  const stored =
    frameBytes % channels === 0 && frameBytes * 8 >= bits * channels ? frameBytes / channels : Math.ceil(bits / 8);
  const format = bits > 0 ? FORMATS.find((entry) => entry.tag === tag && entry.bytes === stored) : undefined;
  if (!format) {
    const name = OTHER_FORMATS[tag] ?? `codec number 0x${tag.toString(16).padStart(4, '0')}`;
    throw unsupported('WAV', `${name} with ${bits} bits a sample`);
  }
  const id = little ? format.encoding : format.encoding.replace(/le$/, 'be');
  if (view.getUint16(0, little) === FORMAT_EXTENSIBLE) bits = Math.min(bits, view.getUint16(18, little) || bits);
  return { encoding: encodingOf(id), channels, sampleRate, usedBits: bits };
}

function readTags({ bytes }: Chunk, little: boolean): Tag[] {
  if (latin1(bytes.subarray(0, 4)) !== 'INFO') return [];
  const view = viewOf(bytes);
  const tags: Tag[] = [];
  for (let at = 4; at + 8 <= bytes.length; ) {
    const id = latin1(bytes.subarray(at, at + 4));
    const size = view.getUint32(at + 4, little);
    tags.push({ name: INFO_NAMES[id] ?? id, value: latin1(bytes.subarray(at + 8, at + 8 + size)) });
    at += 8 + size + (size % 2);
  }
  return tags;
}

function read(bytes: Uint8Array): SoundFile {
  const little = latin1(bytes.subarray(0, 4)) !== 'RIFX';
  const chunks = chunksOf(bytes, little);
  const formatChunk = chunks.find(({ id }) => id === 'fmt ');
  const dataChunk = chunks.find(({ id }) => id === 'data');
  if (!formatChunk) throw headerCutOff('WAV', 'before its format is stated');
  const { encoding, channels, sampleRate, usedBits } = readFormat(formatChunk.bytes, little);
  if (!dataChunk) throw headerCutOff('WAV', 'before its sound begins');
  const frameBytes = encoding.bytesPerSample * channels;
  const frames = Math.floor(dataChunk.bytes.length / frameBytes);
  if (frames === 0) throw noFrames('WAV');
  // The frame count in a fact chunk belongs to the format of everything but PCM; beside PCM it is one chunk too many.
  const needsFact = encoding.kind === 'float' || encoding.companded;
  const own = ['fmt ', 'data', 'ds64', ...(needsFact ? ['fact'] : [])];
  const extras: Extra[] = chunks
    .filter(({ id }) => !own.includes(id))
    .map(({ id, bytes: { length } }) => ({ name: id.trim(), bytes: length }));
  return {
    container: 'wav',
    encoding,
    ...(usedBits === encoding.bitDepth ? {} : { usedBits }),
    sampleRate,
    channels,
    frames,
    data: dataChunk.bytes.subarray(0, frames * frameBytes),
    tags: chunks.filter(({ id }) => id === 'LIST').flatMap((chunk) => readTags(chunk, little)),
    extras,
    warnings: cutOffWarning(dataChunk.stated, dataChunk.bytes.length),
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
  view.setUint16(34, format.bytes * 8, true);
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
    ['RIFF', 'RIFX', 'RF64', 'BW64'].includes(latin1(bytes.subarray(0, 4))) &&
    (bytes.length < 12 || latin1(bytes.subarray(8, 12)) === 'WAVE'),
  read,
  write,
};
