import { type ByteFile, viewOf, windowed } from '@tambur/core';
import { text } from './format.ts';

// Gone through here and not by the media library: that one gives packets, but not what facts say of them: joint stereo, bytes
// between frames, information frames, layers 1 and 2.

/** What one MPEG audio frame's header states (ISO/IEC 11172-3, 2.4.1.3 and 2.4.2.3; ISO/IEC 13818-3; from memory). */
export interface MpegFrame {
  readonly layer: 1 | 2 | 3;
  /** bit/s. */
  readonly bitRate: number;
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  readonly isJoint: boolean;
  /** Size of the frame with its header. */
  readonly bytes: number;
  /** Frames of sound, each with a sample of every channel. */
  readonly frames: number;
}

/** kbit/s by version (1; 2 and 2.5), layer and index. */
const RATES_1: Readonly<Record<1 | 2 | 3, readonly number[]>> = {
  1: [0, 32, 64, 96, 128, 160, 192, 224, 256, 288, 320, 352, 384, 416, 448],
  2: [0, 32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384],
  3: [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
};
const LOW_RATES = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160];
const RATES_2: typeof RATES_1 = {
  1: [0, 32, 48, 56, 64, 80, 96, 112, 128, 144, 160, 176, 192, 224, 256],
  2: LOW_RATES,
  3: LOW_RATES,
};
/** Hz by the two version bits; 1 is reserved. */
const SAMPLE_RATES: Readonly<Record<number, readonly number[]>> = {
  3: [44_100, 48_000, 32_000],
  2: [22_050, 24_000, 16_000],
  0: [11_025, 12_000, 8_000],
};

/** The header at the start of `bytes`, or null if there is none. A free bit rate is not read. */
export function mpegFrame(bytes: Uint8Array): MpegFrame | null {
  const [b0 = 0, b1 = 0, b2 = 0, b3 = 0] = bytes;
  if (b0 !== 0xff || (b1 & 0xe0) !== 0xe0) return null;
  const version = (b1 >> 3) & 3;
  const layer = 4 - ((b1 >> 1) & 3);
  if (layer !== 1 && layer !== 2 && layer !== 3) return null;
  const sampleRate = SAMPLE_RATES[version]?.[(b2 >> 2) & 3];
  const bitRate = (version === 3 ? RATES_1 : RATES_2)[layer][b2 >> 4];
  if (!sampleRate || !bitRate) return null;
  const padding = (b2 >> 1) & 1;
  const frames = layer === 1 ? 384 : layer === 3 && version !== 3 ? 576 : 1152;
  const slot = layer === 1 ? 4 : 1;
  const slots = Math.floor(((frames / 8 / slot) * bitRate * 1000) / sampleRate) + padding;
  const mode = b3 >> 6;
  return {
    layer,
    bitRate: bitRate * 1000,
    sampleRate,
    channels: mode === 3 ? 1 : 2,
    isJoint: mode === 1,
    bytes: slots * slot,
    frames,
  };
}

/** Size of the ID3v2 tag that `head` begins with, 0 without one (ID3v2.4, section 3.1; from memory). */
export function id3Size(head: Uint8Array): number {
  if (text(head, 0, 3) !== 'ID3' || head.length < 10) return 0;
  const [a = 0, b = 0, c = 0, d = 0] = head.subarray(6, 10);
  const size = ((a & 127) << 21) | ((b & 127) << 14) | ((c & 127) << 7) | (d & 127);
  return 10 + size + ((head[5] ?? 0) & 0x10 ? 10 : 0);
}

export interface MpegSurvey {
  readonly first: MpegFrame;
  /** Where the first frame is. */
  readonly start: number;
  /** After the last whole frame. */
  readonly end: number;
  readonly count: number;
  readonly bitRates: ReadonlySet<number>;
  readonly isJoint: boolean;
  /** Bytes between frames that belong to none. */
  readonly strayBytes: number;
  /** Bytes of sound that the information frame promises, if there is one that does. */
  readonly promisedBytes: number | null;
  /** True if the first frame holds no sound but information on the file. */
  readonly hasInformation: boolean;
}

/** How far after a tag, or inside the sound, the next frame is looked for. */
const REACH = 1 << 16;

/** Goes from frame to frame. Null if the file holds none. */
export function surveyFrames(source: ByteFile): MpegSurvey | null {
  const file = windowed(source);
  const tag = id3Size(file.read(0, 10));
  const start = nextFrame(file, tag);
  const first = start === null ? null : mpegFrame(file.read(start, start + 4));
  if (start === null || !first) return null;
  const bitRates = new Set<number>();
  let isJoint = false;
  let count = 0;
  let end = start;
  let strayBytes = 0;
  const information = readInformation(file.read(start, start + first.bytes));
  for (let at: number | null = start; at !== null && at + 4 <= file.size; ) {
    const frame = mpegFrame(file.read(at, at + 4));
    if (frame && frame.layer === first.layer && frame.sampleRate === first.sampleRate) {
      // The information frame has a bit rate of its own choice.
      if (count > 0 || !information) bitRates.add(frame.bitRate);
      isJoint ||= frame.isJoint;
      at += frame.bytes;
      end = Math.min(at, file.size);
      count++;
    } else {
      const next: number | null = isTrailer(file.read(at, at + 8)) ? null : nextFrame(file, at + 1);
      if (next !== null) strayBytes += next - at;
      at = next;
    }
  }
  const promisedBytes = information?.bytes ?? null;
  return { first, start, end, count, bitRates, isJoint, strayBytes, promisedBytes, hasInformation: !!information };
}

/** Tags that follow the sound. */
const isTrailer = (bytes: Uint8Array) => text(bytes, 0, 3) === 'TAG' || text(bytes, 0, 8) === 'APETAGEX';

/** The next place from `from` on where a header is that another one, or the file's end, follows. */
function nextFrame(file: ByteFile, from: number): number | null {
  for (let at = from; at + 4 <= Math.min(file.size, from + REACH); at++) {
    const frame = mpegFrame(file.read(at, at + 4));
    if (!frame) continue;
    const next = at + frame.bytes;
    const follower = mpegFrame(file.read(next, next + 4));
    if (next >= file.size || (follower && follower.layer === frame.layer)) return at;
  }
  return null;
}

/** The information that many encoders put into a first frame without sound (Xing/Info header; from memory). */
function readInformation(frame: Uint8Array): { readonly bytes: number | null } | null {
  for (let at = 4; at + 16 <= Math.min(frame.length, 64); at++) {
    const word = text(frame, at, 4);
    if (word !== 'Xing' && word !== 'Info') continue;
    const view = viewOf(frame);
    const flags = view.getUint32(at + 4);
    return { bytes: flags & 2 ? view.getUint32(at + 8 + (flags & 1 ? 4 : 0)) : null };
  }
  return null;
}
