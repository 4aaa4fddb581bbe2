import {
  type ByteFile,
  formatChannels,
  formatRate,
  partOf,
  piecesOf,
  type SoundStream,
  viewOf,
  windowed,
} from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { chosen, damaged, depthOf, type LibraryFormat, stated, text, unsupported } from './format.ts';

interface Track {
  /** Where the stream's header says that it is sound. */
  readonly kindAt: number;
  readonly encoding: string | null;
  readonly code: number;
  readonly channels: number;
  readonly sampleRate: number;
  readonly bits: number;
  /** Bytes a second as stated. */
  readonly rate: number;
}

/** WAVE codec numbers that occur in AVI (RFC 2361, appendix A; 0xff, 0x2000 common practice, no source). */
const encodingOf = (code: number, bits: number): string | null =>
  code === 1
    ? bits === 8
      ? 'pcm-u8'
      : `pcm-s${bits}le`
    : ({ 3: `float-${bits}le`, 6: 'a-law', 7: 'mu-law', 80: 'mp2', 85: 'mp3', 255: 'aac', 8192: 'ac3' }[code] ?? null);

const EXTENSIBLE = 0xfffe;
const DESCENDED = ['AVI ', 'hdrl', 'strl'];
const MOST_CHUNKS = 10_000;

/** The sounds that the headers of an AVI file describe ("AVI RIFF File Reference"; from memory). */
function tracksOf(source: ByteFile): Track[] {
  const file = windowed(source);
  const tracks: Track[] = [];
  let kindAt: number | null = null;
  for (let at = 0, count = 0; at + 12 <= file.size && count < MOST_CHUNKS; count++) {
    const head = file.read(at, at + 12);
    const id = text(head, 0, 4);
    const size = viewOf(head).getUint32(4, true);
    const type = text(head, 8, 4);
    if ((id === 'RIFF' || id === 'LIST') && DESCENDED.includes(type)) {
      at += 12;
      continue;
    }
    if (id === 'LIST' && type === 'movi') break;
    if (id === 'strh') kindAt = text(file.read(at + 8, at + 12), 0, 4) === 'auds' ? at + 8 : null;
    if (id === 'strf' && kindAt !== null && size >= 16) {
      const view = viewOf(file.read(at + 8, at + 48));
      const isExtended = view.getUint16(0, true) === EXTENSIBLE && size >= 40 && view.byteLength >= 26;
      // The extended header keeps the codec's number at the beginning of a longer name.
      const code = view.getUint16(isExtended ? 24 : 0, true);
      const [channels, bits] = [view.getUint16(2, true), view.getUint16(14, true)];
      const [sampleRate, rate] = [view.getUint32(4, true), view.getUint32(8, true)];
      tracks.push({ kindAt, encoding: encodingOf(code, bits), code, channels, sampleRate, bits, rate });
    }
    at += 8 + size + (size % 2);
  }
  return tracks;
}

/** The file with every other sound's header made to describe something else. */
function* onlyTrack(file: ByteFile, tracks: readonly Track[], kept: Track): Generator<Uint8Array> {
  let at = 0;
  for (const { kindAt } of tracks) {
    if (kindAt === kept.kindAt) continue;
    yield* piecesOf(partOf(file, at, kindAt));
    yield new TextEncoder().encode('none');
    at = kindAt + 4;
  }
  yield* piecesOf(partOf(file, at, file.size));
}

async function open(file: ByteFile, track: number): Promise<SoundStream> {
  const tracks = tracksOf(file);
  const found = chosen('AVI', tracks, track);
  const { encoding, channels, sampleRate, bits, rate } = found;
  if (!encoding || encoding === 'mp2') {
    throw unsupported('AVI', `sound with the codec number 0x${found.code.toString(16).padStart(4, '0')}`);
  }
  if (channels === 0 || sampleRate === 0) throw damaged('AVI');
  const plain = depthOf(encoding);
  if (encoding.startsWith('pcm-') && plain.bitDepth === null) throw unsupported('AVI', `PCM of ${bits} bits`);
  const facts = stated({
    container: 'avi',
    encoding,
    sampleRate,
    channels,
    ...plain,
    bytes: file.size,
    bitRate: rate * 8 || null,
    bitRateMode: plain.bitDepth === null ? 'unknown' : 'constant',
    tracks:
      tracks.length > 1
        ? tracks.map((entry, i) => ({
            title: `${i + 1}: ${entry.encoding ?? 'unknown'}, ${formatChannels(entry.channels)}, ${formatRate(entry.sampleRate)}`,
          }))
        : [],
    track,
  });
  return decodedStream('AVI', 'avi', () => onlyTrack(file, tracks, found), facts);
}

/** AVI. */
export const avi: LibraryFormat = {
  title: 'AVI',
  recognises: (head) => text(head, 0, 4) === 'RIFF' && text(head, 8, 4) === 'AVI ',
  open,
};
