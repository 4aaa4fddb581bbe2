import { asciiBytes, type ByteFile, latin1, latin1Bytes, partOf, viewOf, windowed } from '../bytes/index.ts';
import { encodingOf, frameCodec, layoutOf } from '../encodings/index.ts';
import {
  aroundSamples,
  type Container,
  type Extra,
  type FileWriter,
  type Packing,
  type SoundFile,
  type Tag,
} from './container.ts';
import { checkFormat, cutOffWarning, headerCutOff, noFrames, unsupported } from './refusals.ts';

/** CAF, the Core Audio Format: big-endian chunks with sizes of 64 bits (from memory). */
const HEADER = 8;
const CHUNK_HEADER = 12;
const DESCRIPTION = 32;
/** Precedes the samples: a count of edits. */
const EDIT_COUNT = 4;

const FLAG_FLOAT = 1;
const FLAG_LITTLE = 2;

const MOST_CHUNKS = 1000;
const LARGEST_TEXTS = 1 << 20;

/** The encoding's id by the description's four letters, flags and bits. */
function encodingIdOf(format: string, flags: number, bits: number): string | null {
  const order = flags & FLAG_LITTLE ? 'le' : 'be';
  if (format === 'ulaw') return 'mu-law';
  if (format === 'alaw') return 'a-law';
  if (format !== 'lpcm') return null;
  if (flags & FLAG_FLOAT) return bits === 32 || bits === 64 ? `float-${bits}${order}` : null;
  if (bits === 8) return 'pcm-s8';
  return bits === 16 || bits === 24 || bits === 32 ? `pcm-s${bits}${order}` : null;
}

/** Pairs of texts, each ended by a zero. */
function readTags(bytes: Uint8Array): Tag[] {
  const texts = latin1(bytes.subarray(4)).split('\0');
  const tags: Tag[] = [];
  for (let i = 0; i + 1 < texts.length; i += 2) if (texts[i]) tags.push({ name: texts[i], value: texts[i + 1] });
  return tags;
}

function read(source: ByteFile): SoundFile {
  const file = windowed(source);
  const chunks: { id: string; start: number; stated: number; size: number }[] = [];
  for (let at = HEADER; at + CHUNK_HEADER <= file.size && chunks.length < MOST_CHUNKS; ) {
    const head = file.read(at, at + CHUNK_HEADER);
    const start = at + CHUNK_HEADER;
    const size = Number(viewOf(head).getBigInt64(4));
    // -1: the samples go on to the end of the file.
    const stated = size < 0 ? file.size - start : size;
    chunks.push({ id: latin1(head.subarray(0, 4)), start, stated, size: Math.min(stated, file.size - start) });
    at = start + stated;
  }
  const description = chunks.find(({ id }) => id === 'desc');
  if (!description || description.size < DESCRIPTION) throw headerCutOff('CAF', 'before its format is stated');
  const view = viewOf(file.read(description.start, description.start + DESCRIPTION));
  const format = latin1(file.read(description.start + 8, description.start + 12));
  const sampleRate = Math.round(view.getFloat64(0));
  const channels = view.getUint32(24);
  const bits = view.getUint32(28);
  const id = encodingIdOf(format, view.getUint32(12), bits);
  if (!id) throw unsupported('CAF', `the format "${format}" with ${bits} bits a sample`);
  checkFormat('CAF', channels, sampleRate);
  const data = chunks.find((chunk) => chunk.id === 'data');
  if (!data || data.size < EDIT_COUNT) throw headerCutOff('CAF', 'before its sound begins');
  const encoding = encodingOf(id);
  const codec = frameCodec(encoding, channels);
  const frames = Math.floor((data.size - EDIT_COUNT) / codec.unitBytes);
  if (frames === 0) throw noFrames('CAF');
  const start = data.start + EDIT_COUNT;
  const texts = chunks.find((chunk) => chunk.id === 'info');
  return {
    container: 'caf',
    encoding,
    codec,
    sampleRate,
    channels,
    frames,
    dataAt: start,
    data: partOf(source, start, start + frames * codec.unitBytes),
    tags: texts ? readTags(file.read(texts.start, texts.start + Math.min(texts.size, LARGEST_TEXTS))) : [],
    extras: chunks
      .filter((chunk) => chunk.id !== 'desc' && chunk.id !== 'data')
      .map((chunk): Extra => ({ name: chunk.id.trim(), bytes: chunk.size })),
    warnings: cutOffWarning(data.stated, data.size),
  };
}

/** Tags as an `info` chunk: their count, then name and text, each ended by a zero. */
function infoChunk(tags: readonly Tag[]): Uint8Array {
  if (tags.length === 0) return new Uint8Array(0);
  const texts = latin1Bytes(tags.map(({ name, value }) => `${name}\0${value}\0`).join(''));
  const out = new Uint8Array(CHUNK_HEADER + 4 + texts.length);
  out.set(asciiBytes('info'));
  viewOf(out).setBigInt64(4, BigInt(4 + texts.length));
  viewOf(out).setUint32(CHUNK_HEADER, tags.length);
  out.set(texts, CHUNK_HEADER + 4);
  return out;
}

function write({ encoding, sampleRate, channels, dataBytes, tags = [] }: Packing): FileWriter {
  const soundAt = HEADER + CHUNK_HEADER + DESCRIPTION + CHUNK_HEADER + EDIT_COUNT;
  const out = new Uint8Array(soundAt);
  const view = new DataView(out.buffer);
  out.set(asciiBytes('caff'), 0);
  view.setUint16(4, 1);
  out.set(asciiBytes('desc'), HEADER);
  view.setBigInt64(HEADER + 4, BigInt(DESCRIPTION));
  const at = HEADER + CHUNK_HEADER;
  const isCompanded = encoding.kind === 'integer' && encoding.companded;
  const little = encoding.id.endsWith('le') ? FLAG_LITTLE : 0;
  view.setFloat64(at, sampleRate);
  out.set(asciiBytes(encoding.id === 'mu-law' ? 'ulaw' : encoding.id === 'a-law' ? 'alaw' : 'lpcm'), at + 8);
  view.setUint32(at + 12, isCompanded ? 0 : little | (encoding.kind === 'float' ? FLAG_FLOAT : 0));
  view.setUint32(at + 16, layoutOf(encoding, channels, sampleRate).blockBytes);
  view.setUint32(at + 20, 1);
  view.setUint32(at + 24, channels);
  view.setUint32(at + 28, encoding.bitDepth);
  out.set(asciiBytes('data'), at + DESCRIPTION);
  view.setBigInt64(at + DESCRIPTION + 4, BigInt(EDIT_COUNT + dataBytes));
  return aroundSamples(out, dataBytes, infoChunk(tags));
}

const CARRIED = ['pcm-s8', 'mu-law', 'a-law'].concat(
  ['pcm-s16', 'pcm-s24', 'pcm-s32', 'float-32', 'float-64'].flatMap((id) => [`${id}le`, `${id}be`]),
);

/** CAF with plain samples. */
export const caf: Container = {
  id: 'caf',
  title: 'CAF',
  extensions: ['caf'],
  describesItself: true,
  holdsTags: true,
  carries: CARRIED,
  recognises: (head) => latin1(head.subarray(0, 4)) === 'caff',
  read,
  write: (packing) => {
    if (!CARRIED.includes(packing.encoding.id)) throw new RangeError(`CAF does not carry ${packing.encoding.id}`);
    return write(packing);
  },
};
