import { Mp3Encoder } from '@breezystack/lamejs';
import { concatenated, type EncoderOrder, type SoundEncoder, viewOf } from '@tambur/core';
import { createMp3Encoder } from 'wasm-media-encoders';
import { mpegFrame } from '../formats/mpeg-frames.ts';
import { ascii, Collected, type EncoderMaker, noHold } from './encoder.ts';
import { id3Tag } from './id3.ts';

/** Gives MP3 frames: the bare stream, without tags and information frame. */
interface Stream {
  push(block: readonly Float32Array[]): Uint8Array;
  finish(): Uint8Array;
  close(): void;
}

type BitRate = NonNullable<Parameters<Awaited<ReturnType<typeof createMp3Encoder>>['configure']>[0]['bitrate']>;
type OutputRate = NonNullable<
  Parameters<Awaited<ReturnType<typeof createMp3Encoder>>['configure']>[0]['outputSampleRate']
>;

/** By how much the encoder multiplies what comes in, by kbit/s from which on (LAME's presets; measured in `encoders.test.ts`). */
const ENCODER_GAINS = [
  { from: 256_000, gain: 1 },
  { from: 224_000, gain: 0.98 },
  { from: 192_000, gain: 0.97 },
  { from: 0, gain: 0.95 },
];

/** The level that the encoder takes off, made good. */
const raised = (samples: Float32Array, { bitRate }: EncoderOrder, scale: number): Float32Array => {
  const gain = ENCODER_GAINS.find(({ from }) => bitRate >= from)?.gain ?? 1;
  return scale === gain ? samples : samples.map((value) => (value * scale) / gain);
};

/** Encoders that nobody uses: to make one takes 6 to 45 ms, and memory that a browser gives back late. */
const idle: Awaited<ReturnType<typeof createMp3Encoder>>[] = [];

/** LAME: one channel, or two as joint stereo. */
async function jointStream(order: EncoderOrder): Promise<Stream> {
  const { sampleRate, channels, bitRate } = order;
  const encoder = idle.pop() ?? (await createMp3Encoder());
  encoder.configure({
    sampleRate,
    channels: channels === 1 ? 1 : 2,
    bitrate: (bitRate / 1000) as BitRate,
    outputSampleRate: sampleRate as OutputRate,
  });
  return {
    push: (block) => encoder.encode(block.map((samples) => raised(samples, order, 1))).slice(),
    finish: () => encoder.finalize().slice(),
    close: () => idle.push(encoder),
  };
}

/** Frames that the plain encoder takes at a time. */
const AT_ONCE = 1152;

/** A port of LAME that codes both channels of plain stereo on their own. */
function stereoStream(order: EncoderOrder): Stream {
  const encoder = new Mp3Encoder(2, order.sampleRate, order.bitRate / 1000);
  return {
    push([left = new Float32Array(0), right = left]) {
      const parts: Uint8Array[] = [];
      for (let at = 0; at < left.length; at += AT_ONCE) {
        // It counts in 16-bit levels, but takes what lies between and beyond them too.
        // Its types know 16-bit numbers alone.
        const piece = (samples: Float32Array) =>
          raised(samples.subarray(at, at + AT_ONCE), order, 32_768) as unknown as Int16Array;
        parts.push(Uint8Array.from(encoder.encodeBuffer(piece(left), piece(right))));
      }
      return concatenated(parts);
    },
    finish: () => Uint8Array.from(encoder.flush()),
    close: noHold,
  };
}

/** CRC-16 as the information frame has it: polynomial 0x8005 from the lowest bit on. */
const CRC_TABLE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let value = byte;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >> 1) ^ 0xa001 : value >> 1;
  return value;
});

/** The checksum of bytes that come piece by piece: pass the last result to go on. Other bits come first than in FLAC's. */
function informationSum(bytes: Uint8Array, before = 0): number {
  let value = before;
  for (const byte of bytes) value = (value >> 8) ^ (CRC_TABLE[(value ^ byte) & 255] ?? 0);
  return value;
}

/** Frames that the encoder lets pass before the first sample comes out, without what decoders add (LAME's ENCDELAY). */
const DELAY = 576;

/**
 * The first frame, which states how many frames there are, and what of the first and the last is no sound: the layout of
 * Xing's header with LAME's extension (from memory). It is a frame of the stream's own kind that holds silence.
 */
function informationFrame(stream: Uint8Array, sum: number, frames: number): Uint8Array {
  const first = mpegFrame(stream);
  if (!first) throw new Error('the MP3 encoder gave no frame');
  // The header of the first frame, without its padding and checksum.
  const header = stream.slice(0, 4);
  header[1] = (header[1] ?? 0) | 1;
  header[2] = (header[2] ?? 0) & ~2;
  const isFirstVersion = ((header[1] ?? 0) & 0x18) === 0x18;
  const at = 4 + (isFirstVersion ? (first.channels === 1 ? 17 : 32) : first.channels === 1 ? 9 : 17);
  const roomy = silentFrame(header, at + 156);
  const view = viewOf(roomy);
  const count = countFrames(stream);
  const text = (place: number, value: string) => roomy.set(ascii(value), place);
  text(at, 'Info');
  // Frames, bytes, and places of seeking are stated.
  view.setUint32(at + 4, 7);
  view.setUint32(at + 8, count);
  view.setUint32(at + 12, stream.length + roomy.length);
  for (let k = 0; k < 100; k++) roomy[at + 16 + k] = Math.floor((k * 256) / 100);
  const lame = at + 116;
  text(lame, 'LAME3.100');
  // Constant bit rate.
  roomy[lame + 9] = 1;
  roomy[lame + 20] = Math.min(255, first.bitRate / 1000);
  const padding = Math.max(0, count * first.frames - DELAY - frames);
  roomy[lame + 21] = DELAY >> 4;
  roomy[lame + 22] = ((DELAY & 15) << 4) | ((padding >> 8) & 15);
  roomy[lame + 23] = padding & 255;
  view.setUint32(lame + 28, stream.length + roomy.length);
  view.setUint16(lame + 32, sum);
  view.setUint16(lame + 34, informationSum(roomy.subarray(0, lame + 34)));
  return roomy;
}

/** A frame of the header's kind that holds zeros: at its own bit rate, or the lowest that has room for so many bytes. */
function silentFrame(header: Uint8Array, needed: number): Uint8Array {
  const own = (header[2] ?? 0) >> 4;
  for (const index of [own, ...Array.from({ length: 14 }, (_, i) => i + 1)]) {
    const head = header.slice();
    head[2] = ((head[2] ?? 0) & 0x0f) | (index << 4);
    const frame = mpegFrame(head);
    if (!frame || frame.bytes < needed) continue;
    const out = new Uint8Array(frame.bytes);
    out.set(head);
    return out;
  }
  throw new Error('no MP3 frame has room for the information');
}

function countFrames(stream: Uint8Array): number {
  let count = 0;
  for (let at = 0; ; count++) {
    const frame = mpegFrame(stream.subarray(at, at + 4));
    if (!frame) return count;
    at += frame.bytes;
  }
}

/** MP3 at a constant bit rate through LAME. */
export const encodeMp3: EncoderMaker = async (order): Promise<SoundEncoder> => {
  const stream = order.channels === 2 && order.stereoMode === 'stereo' ? stereoStream(order) : await jointStream(order);
  const tag = id3Tag(order.tags);
  const all = new Collected();
  let sum = 0;
  const keep = (bytes: Uint8Array) => {
    all.add(bytes);
    sum = informationSum(bytes, sum);
  };
  let isStarted = false;
  const withTag = (bytes: Uint8Array) => {
    if (isStarted) return bytes;
    isStarted = true;
    return concatenated([tag, bytes]);
  };
  return {
    async push(block) {
      const bytes = stream.push(block);
      if (!order.infoFrame) return withTag(bytes);
      keep(bytes);
      return new Uint8Array(0);
    },
    async finish() {
      const bytes = stream.finish();
      if (!order.infoFrame) return withTag(bytes);
      keep(bytes);
      const sound = all.all();
      return concatenated([tag, informationFrame(sound, sum, order.frames), sound]);
    },
    close: () => stream.close(),
  };
};
