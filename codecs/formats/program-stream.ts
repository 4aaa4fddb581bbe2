import {
  type ByteFile,
  deinterleave,
  encodingOf,
  formatChannels,
  formatRate,
  type SoundStream,
  type StatedFacts,
  windowed,
} from '@tambur/core';
import { type Decoder, decodedStream } from './decoding.ts';
import { chosen, type LibraryFormat, stated, unsupported } from './format.ts';
import { mpegFrame } from './mpeg-frames.ts';

// Taken apart here, as the media library does not know program streams (fixtures/files/two-tracks.mpg is bare MPEG audio to it).

/**
 * MPEG program streams, as in the video files of a disc (ISO/IEC 13818-1, 2.5; the private streams of a disc common
 * practice, no source): packs of packets, each with the number of its stream. AC-3 and linear PCM share the private
 * stream 1; a byte in front of their data tells them apart.
 */
const PACK = 0xba;
const END = 0xb9;
const PRIVATE_1 = 0xbd;

interface Packet {
  /** Number of the stream; for private data 0x100 more than its own. */
  readonly stream: number;
  readonly data: Uint8Array;
}

/** All packets from a file's start to its end. Damaged places are skipped up to the next start code. */
function* packetsOf(source: ByteFile): Generator<Packet> {
  const file = windowed(source);
  for (let at = 0; at + 6 <= file.size; ) {
    const [zero, nought, one, code = 0, high = 0, low = 0] = file.read(at, at + 6);
    if (zero !== 0 || nought !== 0 || one !== 1) {
      at++;
      continue;
    }
    if (code === PACK) {
      const version = file.read(at + 4, at + 14);
      // MPEG-2 packs begin with the bits 01 and end with stuffing; those of MPEG-1 have 12 bytes.
      at += (version[0] ?? 0) >> 6 === 1 ? 14 + ((version[9] ?? 0) & 7) : 12;
      continue;
    }
    if (code === END || code < PACK) {
      at += 4;
      continue;
    }
    const end = at + 6 + (high << 8) + low;
    if (code === PRIVATE_1 || (code >= 0xc0 && code <= 0xdf)) {
      const data = payload(file.read(at + 6, end));
      if (data && code !== PRIVATE_1) yield { stream: code, data };
      else if (data?.length) yield { stream: 0x100 + (data[0] ?? 0), data: data.subarray(4) };
    }
    at = end;
  }
}

/** A packet's data after its header, of MPEG-2 or MPEG-1. */
function payload(body: Uint8Array): Uint8Array | null {
  if (((body[0] ?? 0) & 0xc0) === 0x80) return body.subarray(3 + (body[2] ?? 0));
  let at = 0;
  while (body[at] === 0xff) at++;
  if (((body[at] ?? 0) & 0xc0) === 0x40) at += 2;
  const stamp = (body[at] ?? 0) & 0xf0;
  at += stamp === 0x20 ? 5 : stamp === 0x30 ? 10 : 1;
  return at <= body.length ? body.subarray(at) : null;
}

interface Track {
  readonly stream: number;
  readonly encoding: 'ac3' | 'mp1' | 'mp2' | 'mp3' | 'lpcm';
  readonly channels: number;
  readonly sampleRate: number;
  readonly bitRate: number;
  /** Of linear PCM. */
  readonly bits: number | null;
  readonly layout: readonly string[] | null;
}

/** AC-3: rates by code, bit rates in kbit/s by half the frame size code, speakers by mode (ATSC A/52, 5.4; from memory). */
const AC3_RATES = [48_000, 44_100, 32_000];
const AC3_BIT_RATES = [32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384, 448, 512, 576, 640];
const AC3_MODES = ['L R', 'C', 'L R', 'L R C', 'L R S', 'L R C S', 'L R Ls Rs', 'L R C Ls Rs'];

function readAc3(stream: number, data: Uint8Array): Track | null {
  const at = data.findIndex((byte, i) => byte === 0x0b && data[i + 1] === 0x77);
  const [, , , , sizes = 0, , modes = 0, more = 0] = at < 0 ? [] : data.subarray(at, at + 8);
  const sampleRate = AC3_RATES[sizes >> 6];
  const kbits = AC3_BIT_RATES[(sizes & 63) >> 1];
  if (at < 0 || !sampleRate || !kbits) return null;
  const mode = modes >> 5;
  // After the mode stand two bits each for a centre, surrounds and a matrix mark, then the low-frequency bit.
  const skipped = ((mode & 1) !== 0 && mode !== 1 ? 2 : 0) + (mode & 4 ? 2 : 0) + (mode === 2 ? 2 : 0);
  const bits = (modes << 8) | more;
  const hasLow = ((bits >> (12 - skipped)) & 1) === 1;
  const speakers = (AC3_MODES[mode] ?? '').split(' ');
  if (hasLow) speakers.splice(Math.min(3, speakers.length), 0, 'LFE');
  return {
    stream,
    encoding: 'ac3',
    channels: speakers.length,
    sampleRate,
    bitRate: kbits * 1000,
    bits: null,
    layout: speakers,
  };
}

/** Linear PCM of a disc: three bytes after the frame counts say depth, rate and channels (common practice, no source). */
function readLpcm(stream: number, data: Uint8Array): Track | null {
  const info = data[1] ?? 0;
  const bits = [16, 20, 24][info >> 6];
  const sampleRate = [48_000, 96_000, 44_100, 32_000][(info >> 4) & 3];
  if (!bits || !sampleRate) return null;
  const channels = (info & 7) + 1;
  return { stream, encoding: 'lpcm', channels, sampleRate, bitRate: bits * channels * sampleRate, bits, layout: null };
}

function readMpeg(stream: number, data: Uint8Array): Track | null {
  for (let at = 0; at + 4 <= data.length; at++) {
    const frame = mpegFrame(data.subarray(at, at + 4));
    if (!frame) continue;
    const { layer, channels, sampleRate, bitRate } = frame;
    return { stream, encoding: `mp${layer}`, channels, sampleRate, bitRate, bits: null, layout: null };
  }
  return null;
}

const isAc3 = (stream: number) => stream >= 0x180 && stream <= 0x187;
const isLpcm = (stream: number) => stream >= 0x1a0 && stream <= 0x1a7;

const isDts = (stream: number) => stream >= 0x188 && stream <= 0x18f;

/** True if one of the first packets of a file is of DTS, for which there is no decoder. */
function hasDts(file: ByteFile): boolean {
  let count = 0;
  for (const { stream } of packetsOf(file)) {
    if (isDts(stream)) return true;
    if (++count === MOST_LOOKED_AT) break;
  }
  return false;
}
const MOST_LOOKED_AT = 10_000;

/** So much of a file is searched for its sounds. */
const SEARCHED = 16_000_000;

function tracksOf(file: ByteFile): Track[] {
  const tracks = new Map<number, Track>();
  const start: ByteFile = {
    size: Math.min(file.size, SEARCHED),
    read: (from, to) => file.read(from, Math.min(to, SEARCHED)),
  };
  for (const { stream, data } of packetsOf(start)) {
    if (tracks.has(stream)) continue;
    const found = isAc3(stream)
      ? readAc3(stream, data)
      : isLpcm(stream)
        ? readLpcm(stream, data)
        : stream < 0x100
          ? readMpeg(stream, data)
          : null;
    if (found) tracks.set(stream, found);
  }
  return [...tracks.values()].sort((a, b) => a.stream - b.stream);
}

/** The data of one stream. Of linear PCM three bytes more belong to the header. */
function* dataOf(file: ByteFile, { stream, encoding }: Track): Generator<Uint8Array> {
  for (const packet of packetsOf(file)) {
    if (packet.stream === stream) yield (encoding === 'lpcm' ? packet.data.subarray(3) : packet.data).slice();
  }
}

/**
 * Samples of a disc's linear PCM in storage order. 16 bits are plain big-endian; of 20 and 24 bits, two frames' upper 16
 * bits stand first, then what is left of them.
 */
function lpcmSamples(group: Uint8Array, bits: number, channels: number): Float32Array {
  const plain = encodingOf('pcm-s16be');
  if (bits === 16) return plain.decode(group);
  const count = 2 * channels;
  const groupBytes = (count * bits) / 8;
  const out = new Float32Array(Math.floor(group.length / groupBytes) * count);
  for (let at = 0, to = 0; to < out.length; at += groupBytes, to += count) {
    for (let i = 0; i < count; i++) {
      const upper = ((group[at + 2 * i] ?? 0) << 24) | ((group[at + 2 * i + 1] ?? 0) << 16);
      const rest = at + 2 * count;
      const low =
        bits === 24 ? (group[rest + i] ?? 0) << 8 : (((group[rest + (i >> 1)] ?? 0) >> (i & 1 ? 0 : 4)) & 15) << 12;
      out[to + i] = (upper | low) / 2 ** 31;
    }
  }
  return out;
}

function lpcmStream(file: ByteFile, track: Track, facts: StatedFacts): SoundStream {
  const { channels, bits } = track;
  const depth = bits ?? 16;
  const groupBytes = (depth === 16 ? channels : 2 * channels) * (depth / 8);
  return {
    stated: facts,
    *blocks() {
      let left = new Uint8Array(0);
      for (const piece of dataOf(file, track)) {
        const joined = new Uint8Array(left.length + piece.length);
        joined.set(left);
        joined.set(piece, left.length);
        const whole = Math.floor(joined.length / groupBytes) * groupBytes;
        left = joined.slice(whole);
        if (whole > 0) yield deinterleave(lpcmSamples(joined.subarray(0, whole), depth, channels), channels);
      }
    },
  };
}

const trackTitle = ({ encoding, channels, sampleRate }: Track, i: number) =>
  `${i + 1}: ${encoding}, ${formatChannels(channels)}, ${formatRate(sampleRate)}`;

async function open(file: ByteFile, track: number): Promise<SoundStream> {
  const tracks = tracksOf(file);
  if (tracks.length === 0 && hasDts(file)) throw unsupported('MPEG', 'sound in DTS');
  if (tracks.length === 0) throw unsupported('MPEG', 'no sound, or sound that is protected or in an encoding');
  const found = chosen('MPEG', tracks, track);
  const { encoding, channels, sampleRate, bitRate, bits, layout } = found;
  const facts = stated({
    container: 'program-stream',
    encoding,
    sampleRate,
    channels,
    bitDepth: bits,
    plainBits: bits,
    layout: channels > 2 ? layout : null,
    bytes: file.size,
    bitRate,
    bitRateMode: 'constant',
    tracks: tracks.length > 1 ? tracks.map((entry, i) => ({ title: trackTitle(entry, i) })) : [],
    track,
  });
  if (encoding === 'lpcm') return lpcmStream(file, found, facts);
  const decoder: Decoder = encoding === 'ac3' ? 'ac3' : 'mp3';
  return decodedStream('MPEG', decoder, () => dataOf(file, found), facts);
}

/** MPEG program streams. */
export const programStream: LibraryFormat = {
  title: 'MPEG',
  recognises: (head) => head[0] === 0 && head[1] === 0 && head[2] === 1 && head[3] === PACK,
  open,
};
