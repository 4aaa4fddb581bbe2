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
import {
  type BlockEncoding,
  type Codec,
  codecOf,
  encodingOf,
  findEncoding,
  frameCodec,
  framesIn,
  imaAdpcm,
  layoutOf,
  MS_COEFFICIENTS,
  msAdpcm,
  type SampleEncoding,
} from '../encodings/index.ts';
import {
  aroundSamples,
  type Container,
  type Extra,
  type FileWriter,
  type Packing,
  type SoundFile,
  type Tag,
} from './container.ts';
import { checkFormat, cutOffWarning, damagedHeader, headerCutOff, noFrames, unsupported } from './refusals.ts';
import { WAVE_EXTENSIBLE, waveEncoding, waveName, waveNumberOf, waveSampleBytes } from './wave-numbers.ts';

/**
 * RIFF/WAVE as in "Multimedia Programming Interface and Data Specifications 1.0" and the notes on
 * WAVEFORMATEXTENSIBLE; codec numbers as in RFC 2361; RF64 as in EBU Tech 3306 (all from memory). Little-endian, but for
 * RIFX, which is the same in big-endian.
 */
const PCM = 1;

/** The tail of a sub-format GUID that carries a plain codec number in its first two bytes. */
const GUID_TAIL = [0x00, 0x00, 0x00, 0x00, 0x10, 0x00, 0x80, 0x00, 0x00, 0xaa, 0x00, 0x38, 0x9b, 0x71];

/** The same in big-endian, where the first three numbers of the name are stored the other way round. */
const GUID_TAIL_BIG = [0x00, 0x00, 0x00, 0x10, ...GUID_TAIL.slice(6)];

/** What is written. Samples of five bytes and more are only read. */
const CARRIED: readonly string[] = [
  ...['pcm-u8', 'pcm-s16le', 'pcm-s24le', 'pcm-s32le', 'float-32le', 'float-64le', 'mu-law', 'a-law'],
  ...[imaAdpcm.id, msAdpcm.id],
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

/** More chunks, and more of one that is read whole, are not looked at: no real file has as much. */
const MOST_CHUNKS = 1000;
const LARGEST_CHUNK = 1 << 20;

interface Chunk {
  readonly id: string;
  readonly start: number;
  /** Size that the chunk states. */
  readonly stated: number;
  /** What of it is in the file. */
  readonly size: number;
}

/** True if four letters, as of a chunk's name, stand at `at`. */
const startsChunk = (file: ByteFile, at: number) => /^[A-Za-z0-9 _-]{4}$/.test(latin1(file.read(at, at + 4)));

function chunksOf(file: ByteFile, little: boolean): Chunk[] {
  const chunks: Chunk[] = [];
  let longSize: number | undefined;
  for (let at = 12; at + 8 <= file.size && chunks.length < MOST_CHUNKS; ) {
    const id = latin1(file.read(at, at + 4));
    const start = at + 8;
    const left = file.size - start;
    let stated = viewOf(file.read(at, start)).getUint32(4, little);
    // RF64: the sizes that do not fit into 32 bits stand in a chunk of their own, the one of the data second.
    if (id === 'ds64' && left >= 16) longSize = Number(viewOf(file.read(start, start + 16)).getBigUint64(8, little));
    if (id === 'data' && stated === NO_SIZE) stated = longSize ?? left;
    // A recorder that was cut off leaves a size of 0 before data that go on to the end.
    if (id === 'data' && stated === 0 && left > 0 && !startsChunk(file, start)) stated = left;
    if (chunks.some((chunk) => chunk.id === 'data') && !startsChunk(file, at)) {
      chunks.push({ id: 'bytes after the end', start: at, stated: file.size - at, size: file.size - at });
      break;
    }
    chunks.push({ id, start, stated, size: Math.min(stated, left) });
    at = start + stated;
    // Chunks start at even places, but some writers do not know that.
    if (stated % 2 === 1 && (!startsChunk(file, at) || startsChunk(file, at + 1))) at++;
  }
  return chunks;
}

interface Format {
  readonly encoding: SampleEncoding | BlockEncoding;
  readonly codec: Codec;
  readonly channels: number;
  readonly sampleRate: number;
  /** Bits of a sample that carry sound. */
  readonly usedBits: number;
  readonly layout?: readonly string[];
}

/** Speakers by bit of the channel mask (WAVEFORMATEXTENSIBLE; from memory). */
const SPEAKERS = ['L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Lc', 'Rc', 'Cs', 'Ls', 'Rs'];

/** The speakers of an extended header, where it names one for each channel. */
function speakersOf(mask: number, channels: number): { layout?: readonly string[] } {
  const layout = SPEAKERS.filter((_, bit) => (mask >> bit) & 1);
  return channels > 2 && layout.length === channels ? { layout } : {};
}

function readFormat(bytes: Uint8Array, little: boolean): Format {
  if (bytes.length < 16) throw headerCutOff('WAV', 'inside its header');
  const view = viewOf(bytes);
  const channels = view.getUint16(2, little);
  const sampleRate = view.getUint32(4, little);
  const frameBytes = view.getUint16(12, little);
  let bits = view.getUint16(14, little);
  let tag = view.getUint16(0, little);
  if (tag === WAVE_EXTENSIBLE) {
    if (bytes.length < 40) throw headerCutOff('WAV', 'inside its extended header');
    // The codec's number is the lower half of the name's first number of 32 bits.
    const [numberAt, tail] = little ? [24, GUID_TAIL] : [26, GUID_TAIL_BIG];
    const tailAt = 40 - tail.length;
    if (tail.every((byte, i) => bytes[tailAt + i] === byte)) tag = view.getUint16(numberAt, little);
  }
  checkFormat('WAV', channels, sampleRate);
  const blocks = findEncoding(waveEncoding(tag, 0) ?? '');
  if (blocks?.kind === 'block') {
    return readBlockFormat(blocks, bytes, little, { channels, sampleRate, blockBytes: frameBytes });
  }
  const stored = waveSampleBytes(frameBytes, channels, bits);
  const known = bits > 0 ? findEncoding(waveEncoding(tag, stored) ?? '') : undefined;
  if (!known) throw unsupported('WAV', `${waveName(tag)} with ${bits} bits a sample`);
  const id = little ? known.id : known.id.replace(/le$/, 'be');
  const isExtended = view.getUint16(0, little) === WAVE_EXTENSIBLE;
  if (isExtended) bits = Math.min(bits, view.getUint16(18, little) || bits);
  const layout = isExtended ? speakersOf(view.getUint32(20, little), channels) : {};
  const encoding = encodingOf(id);
  return { encoding, codec: frameCodec(encoding, channels), channels, sampleRate, usedBits: bits, ...layout };
}

/** ADPCM: the extension states the frames of a block, and for Microsoft's the coefficients. */
function readBlockFormat(
  encoding: BlockEncoding,
  bytes: Uint8Array,
  little: boolean,
  { channels, sampleRate, blockBytes }: { channels: number; sampleRate: number; blockBytes: number },
): Format {
  if (blockBytes < encoding.leastBlockBytes(channels)) {
    throw damagedHeader('WAV', `blocks of ${blockBytes} bytes, too small for ${encoding.title}`);
  }
  const view = viewOf(bytes);
  const count = bytes.length >= 22 ? view.getUint16(20, little) : 0;
  const fits = encoding === msAdpcm && count > 0 && bytes.length >= 22 + 4 * count;
  const pair = (i: number) => [view.getInt16(22 + 4 * i, little), view.getInt16(24 + 4 * i, little)] as const;
  const coefficients = fits ? { coefficients: Array.from({ length: count }, (_, i) => pair(i)) } : {};
  const codec = encoding.codec({ channels, blockBytes, ...coefficients });
  return { encoding, codec, channels, sampleRate, usedBits: encoding.bitDepth };
}

function readTags(bytes: Uint8Array, little: boolean): Tag[] {
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

function read(source: ByteFile): SoundFile {
  const file = windowed(source);
  const little = latin1(file.read(0, 4)) !== 'RIFX';
  const chunks = chunksOf(file, little);
  const bytesOf = ({ start, size }: Chunk) => file.read(start, start + Math.min(size, LARGEST_CHUNK));
  const formatChunk = chunks.find(({ id }) => id === 'fmt ');
  const dataChunk = chunks.find(({ id }) => id === 'data');
  if (!formatChunk) throw headerCutOff('WAV', 'before its format is stated');
  const { encoding, codec, channels, sampleRate, usedBits, ...layout } = readFormat(bytesOf(formatChunk), little);
  if (!dataChunk) throw headerCutOff('WAV', 'before its sound begins');
  const { frames, bytes, warnings } = soundIn(dataChunk, codec, channels, () => {
    const fact = chunks.find(({ id, size }) => id === 'fact' && size >= 4);
    return fact && viewOf(bytesOf(fact)).getUint32(0, little);
  });
  if (frames === 0) throw noFrames('WAV');
  // The frame count in a fact chunk belongs to the format of everything but PCM; beside PCM it is one chunk too many.
  const needsFact = encoding.kind !== 'integer' || encoding.companded;
  const own = ['fmt ', 'data', 'ds64', ...(needsFact ? ['fact'] : [])];
  const extras: Extra[] = chunks
    .filter(({ id }) => !own.includes(id))
    .map(({ id, size }) => ({ name: id.trim(), bytes: size }));
  return {
    container: 'wav',
    encoding,
    codec,
    ...(usedBits === encoding.bitDepth ? {} : { usedBits }),
    sampleRate,
    channels,
    ...layout,
    frames,
    dataAt: dataChunk.start,
    data: partOf(source, dataChunk.start, dataChunk.start + bytes),
    tags: chunks.filter(({ id }) => id === 'LIST').flatMap((chunk) => readTags(bytesOf(chunk), little)),
    extras,
    warnings: [...cutOffWarning(dataChunk.stated, dataChunk.size), ...warnings],
  };
}

/**
 * Frames and bytes of sound in the data. Of blocks, the last may be filled up: the fact chunk tells how many frames count.
 * It is believed where that ends inside the last block, as some writers count samples, or frames of something else.
 */
function soundIn(
  data: Chunk,
  codec: Codec,
  channels: number,
  factFrames: () => number | undefined,
): { frames: number; bytes: number; warnings: string[] } {
  if (codec.unitFrames === 1) {
    const frames = Math.floor(data.size / codec.unitBytes);
    return { frames, bytes: frames * codec.unitBytes, warnings: [] };
  }
  const present = framesIn(codec, channels, data.size);
  const stated = factFrames();
  const isCutOff = data.size < data.stated;
  const before = (Math.ceil(data.size / codec.unitBytes) - 1) * codec.unitFrames;
  if (!stated || (isCutOff && stated >= present)) return { frames: present, bytes: data.size, warnings: [] };
  if (stated > before && stated <= before + codec.unitFrames) {
    return { frames: Math.min(stated, present), bytes: data.size, warnings: [] };
  }
  return {
    frames: present,
    bytes: data.size,
    warnings: [`The file states ${stated} frames, but its blocks hold ${present}; what the blocks hold is used.`],
  };
}

/** The speakers of three and more channels in the order of the mask (WAVEFORMATEXTENSIBLE; from memory). */
const SPEAKER_MASKS: Readonly<Record<number, number>> = { 3: 0x7, 4: 0x33, 5: 0x37, 6: 0x3f, 7: 0x13f, 8: 0x63f };

/** What stands in the format chunk. The extended form only where it is needed: small devices do not know it. */
function formatBytes({ encoding, sampleRate, channels }: Packing): Uint8Array {
  const tag = waveNumberOf(encoding.id);
  if (tag === undefined || !CARRIED.includes(encoding.id)) throw new RangeError(`WAV does not carry ${encoding.id}`);
  const isBlock = encoding.kind === 'block';
  const layout = layoutOf(encoding, channels, sampleRate);
  const { unitBytes, unitFrames } = codecOf(encoding, layout);
  const isExtended = channels > 2 && !isBlock;
  // After the 16 bytes of plain PCM stands the size of what follows.
  const extension = isExtended
    ? 22
    : encoding === imaAdpcm
      ? 2
      : encoding === msAdpcm
        ? 4 + 4 * MS_COEFFICIENTS.length
        : 0;
  const isPlain = tag === PCM && !isExtended;
  const out = new Uint8Array(isPlain ? 16 : 18 + extension);
  const view = viewOf(out);
  const word = (at: number, value: number) => view.setUint16(at, value, true);
  const bits = isBlock ? encoding.bitDepth : encoding.bytesPerSample * 8;
  word(0, isExtended ? WAVE_EXTENSIBLE : tag);
  word(2, channels);
  view.setUint32(4, sampleRate, true);
  view.setUint32(8, Math.round((sampleRate * unitBytes) / unitFrames), true);
  word(12, unitBytes);
  word(14, bits);
  if (isPlain) return out;
  word(16, extension);
  if (isExtended) {
    word(18, bits);
    view.setUint32(20, SPEAKER_MASKS[channels] ?? 0, true);
    word(24, tag);
    out.set(GUID_TAIL, 26);
  } else if (isBlock) {
    word(18, unitFrames);
    if (encoding === msAdpcm) {
      word(20, MS_COEFFICIENTS.length);
      MS_COEFFICIENTS.forEach(([first, second], i) => {
        view.setInt16(22 + 4 * i, first, true);
        view.setInt16(24 + 4 * i, second, true);
      });
    }
  }
  return out;
}

const even = (size: number) => size + (size % 2);

/** A chunk, filled up to an even size. */
function chunkOf(id: string, content: Uint8Array): Uint8Array {
  const out = new Uint8Array(8 + even(content.length));
  out.set(asciiBytes(id));
  viewOf(out).setUint32(4, content.length, true);
  out.set(content, 8);
  return out;
}

/** Tags as a list of INFO entries, each ended by a zero. */
function infoChunk(tags: readonly Tag[]): Uint8Array {
  const entries = tags.flatMap(({ name, value }) => {
    const id = Object.keys(INFO_NAMES).find((key) => INFO_NAMES[key] === name);
    return id ? [chunkOf(id, concatenated([latin1Bytes(value), new Uint8Array(1)]))] : [];
  });
  return entries.length ? chunkOf('LIST', concatenated([asciiBytes('INFO'), ...entries])) : new Uint8Array(0);
}

function write(packing: Packing): FileWriter {
  const { encoding, frames, dataBytes, tags = [] } = packing;
  const format = chunkOf('fmt ', formatBytes(packing));
  // Everything but PCM has a fact chunk with the frame count.
  const needsFact = encoding.kind !== 'integer' || encoding.companded;
  const fact = new Uint8Array(needsFact ? 4 : 0);
  if (needsFact) viewOf(fact).setUint32(0, frames, true);
  const info = infoChunk(tags);
  const padding = dataBytes % 2;
  const before = concatenated([asciiBytes('WAVE'), format, ...(needsFact ? [chunkOf('fact', fact)] : [])]);
  const sizes = new Uint8Array(8);
  viewOf(sizes).setUint32(0, before.length + 8 + dataBytes + padding + info.length, true);
  viewOf(sizes).setUint32(4, dataBytes, true);
  const head = [asciiBytes('RIFF'), sizes.subarray(0, 4), before, asciiBytes('data'), sizes.subarray(4)];
  // Tags come after the samples, as some players take everything in front of them for sound.
  return aroundSamples(concatenated(head), dataBytes, concatenated([new Uint8Array(padding), info]));
}

/** RIFF/WAVE. */
export const wav: Container = {
  id: 'wav',
  title: 'WAV',
  extensions: ['wav'],
  describesItself: true,
  holdsTags: true,
  mostBytes: 2 ** 32 - 1,
  carries: CARRIED,
  recognises: (bytes) =>
    ['RIFF', 'RIFX'].includes(latin1(bytes.subarray(0, 4))) &&
    (bytes.length < 12 || latin1(bytes.subarray(8, 12)) === 'WAVE'),
  read,
  write,
};
