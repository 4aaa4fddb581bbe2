import {
  type ByteFile,
  findEncoding,
  formatChannels,
  formatRate,
  type SoundStream,
  viewOf,
  WAVE_EXTENSIBLE,
  waveEncoding,
  waveName,
  waveSampleBytes,
  windowed,
} from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { chosen, damaged, depthOf, type LibraryFormat, stated, text, unsupported } from './format.ts';
import { joinedRanges } from './mp4-samples.ts';
import { plainSound } from './plain-sound.ts';

// Taken apart here, as the media library does not read AVI.

interface AviTrack {
  /** Number of its stream among all of the file. */
  readonly stream: number;
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

/** What the library decodes; samples one by one are read here. */
const DECODED = ['mp3', 'aac', 'ac3'];
const isRead = (encoding: string): boolean =>
  DECODED.includes(encoding) || (findEncoding(encoding)?.kind ?? 'block') !== 'block';

const DESCENDED = ['AVI ', 'hdrl', 'strl'];
const MOST_CHUNKS = 10_000;

/** The sounds that the headers of an AVI file describe ("AVI RIFF File Reference"; from memory). */
function tracksOf(source: ByteFile): { readonly tracks: readonly AviTrack[]; readonly headersEnd: number } {
  const file = windowed(source);
  const tracks: AviTrack[] = [];
  let kindAt: number | null = null;
  let stream = -1;
  let headersEnd = file.size;
  for (let at = 0, count = 0; at + 12 <= file.size && count < MOST_CHUNKS; count++) {
    const head = file.read(at, at + 12);
    const id = text(head, 0, 4);
    const size = viewOf(head).getUint32(4, true);
    const type = text(head, 8, 4);
    if ((id === 'RIFF' || id === 'LIST') && DESCENDED.includes(type)) {
      at += 12;
      continue;
    }
    if (id === 'LIST' && type === 'movi') {
      headersEnd = at;
      break;
    }
    if (id === 'strh') stream++;
    if (id === 'strh') kindAt = text(file.read(at + 8, at + 12), 0, 4) === 'auds' ? at + 8 : null;
    if (id === 'strf' && kindAt !== null && size >= 16) {
      const view = viewOf(file.read(at + 8, at + 48));
      const isExtended = view.getUint16(0, true) === WAVE_EXTENSIBLE && size >= 40 && view.byteLength >= 26;
      // The extended header keeps the codec's number at the beginning of a longer name.
      const code = view.getUint16(isExtended ? 24 : 0, true);
      const [channels, bits] = [view.getUint16(2, true), view.getUint16(14, true)];
      const [sampleRate, rate] = [view.getUint32(4, true), view.getUint32(8, true)];
      tracks.push({
        stream,
        kindAt,
        encoding: waveEncoding(code, waveSampleBytes(view.getUint16(12, true), channels, bits)) ?? null,
        code,
        channels,
        sampleRate,
        bits,
        rate,
      });
    }
    at += 8 + size + (size % 2);
  }
  return { tracks, headersEnd };
}

/** Lists that are gone into on the way to the chunks of sound. */
const SOUND_LISTS = ['AVI ', 'AVIX', 'movi', 'rec '];
/** Headers are not longer, and one chunk of sound is not larger; a larger one is cut to what there is room for. */
const LONGEST_HEADERS = 1 << 22;
const LARGEST_CHUNK = 1 << 24;

/** Chunks of one stream's sound, in order: where each one's bytes are. A last one that is cut off counts as far as it goes. */
function* chunksOf(source: ByteFile, stream: number): Generator<{ readonly start: number; readonly end: number }> {
  const file = windowed(source);
  const name = `${String(stream).padStart(2, '0')}wb`;
  for (let at = 0; at + 8 <= file.size; ) {
    const head = file.read(at, at + 12);
    const id = text(head, 0, 4);
    if ((id === 'RIFF' || id === 'LIST') && SOUND_LISTS.includes(text(head, 8, 4))) {
      at += 12;
      continue;
    }
    const size = viewOf(head).getUint32(4, true);
    const end = Math.min(file.size, at + 8 + size);
    if (id === name && end > at + 8) yield { start: at + 8, end };
    at += 8 + size + (size % 2);
  }
}

/** A chunk with its head, filled up to an even size. */
function chunk(name: string, body: Uint8Array): Uint8Array {
  const out = new Uint8Array(8 + body.length + (body.length % 2));
  out.set(new TextEncoder().encode(name));
  viewOf(out).setUint32(4, body.length, true);
  out.set(body, 8);
  return out;
}

/**
 * A file with one sound alone: the headers, in which every other sound is made to be something else, and then the chunks
 * of that sound, each in one piece. What a decoder would have to wade through, or wait for, is not in it.
 */
function* onlyTrack(
  file: ByteFile,
  tracks: readonly AviTrack[],
  kept: AviTrack,
  headersEnd: number,
): Generator<Uint8Array> {
  const headers = file.read(0, Math.min(headersEnd, LONGEST_HEADERS)).slice();
  for (const { kindAt } of tracks) {
    if (kindAt !== kept.kindAt) headers.set(new TextEncoder().encode('none'), kindAt);
  }
  yield headers;
  const name = `${String(kept.stream).padStart(2, '0')}wb`;
  for (const { start, end } of chunksOf(file, kept.stream)) {
    for (let at = start; at < end; at += LARGEST_CHUNK) {
      yield chunk(name, file.read(at, Math.min(end, at + LARGEST_CHUNK)).slice());
    }
  }
}

async function open(file: ByteFile, track: number): Promise<SoundStream> {
  const { tracks, headersEnd } = tracksOf(file);
  const found = chosen('AVI', tracks, track);
  const { encoding, channels, sampleRate, bits, rate } = found;
  if (!encoding || !isRead(encoding)) throw unsupported('AVI', waveName(found.code));
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
  const core = findEncoding(encoding);
  if (core && core.kind !== 'block') return plainSound(facts, core, joinedRanges(file, chunksOf(file, found.stream)));
  return decodedStream('AVI', 'avi', () => onlyTrack(file, tracks, found, headersEnd), facts, { isWhole: true });
}

/** AVI. */
export const avi: LibraryFormat = {
  title: 'AVI',
  recognises: (head) => text(head, 0, 4) === 'RIFF' && text(head, 8, 4) === 'AVI ',
  open,
};
