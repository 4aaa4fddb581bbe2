import {
  decodeFlacFrame,
  type FlacFrame,
  flacFrameHeader,
  flacSum,
  type SoundStream,
  type StatedFacts,
  viewOf,
} from '@tambur/core';
import { cutOff, damaged } from './format.ts';

type Block = readonly Float32Array[];

/** What the description of a stream states (RFC 9639, 8.2). */
export interface FlacInfo {
  /** Frames of sound in the longest block: in every one but the last, where blocks are of one length. */
  readonly blockFrames: number;
  readonly sampleRate: number;
  readonly channels: number;
  readonly bitDepth: number;
  /** 0 if nothing is stated. */
  readonly frames: number;
}

export const STREAM_INFO_BYTES = 34;

/** @throws InputError if that is none */
export function flacInfo(bytes: Uint8Array): FlacInfo {
  if (bytes.length < STREAM_INFO_BYTES) throw damaged('FLAC');
  const view = viewOf(bytes);
  const packed = view.getUint32(10);
  const sampleRate = packed >>> 12;
  if (sampleRate === 0) throw damaged('FLAC');
  return {
    blockFrames: view.getUint16(2),
    sampleRate,
    channels: ((packed >>> 9) & 7) + 1,
    bitDepth: ((packed >>> 4) & 31) + 1,
    frames: (packed & 15) * 2 ** 32 + view.getUint32(14),
  };
}

/** Of a stream that states no length, so much may be missing in one place. */
const LONGEST_GAP_S = 10;

/**
 * A FLAC stream, decoded frame by frame: only whole frames whose checksum is right are, so that it does not matter where
 * pieces of the file end. Where frames are lost, silence stands in their place, and that is said.
 * @param frames all of them from the start, each time that it is called
 */
export function flacStream(info: FlacInfo, stated: StatedFacts, frames: () => Iterable<FlacFrame>): SoundStream {
  let lost = 0;

  function* blocks(): Generator<Block> {
    lost = 0;
    let position = 0;
    for (const frame of frames()) {
      const block = decoded(frame, info);
      if (!block) continue;
      const { isVariable, number } = frame.header;
      // A damaged number may be anything: silence goes no farther than the stream's own length, where that is stated.
      const most = info.frames || position + LONGEST_GAP_S * info.sampleRate;
      const gap = Math.min(isVariable ? number : number * info.blockFrames, most) - position;
      if (gap > 0) {
        lost += gap;
        yield* silence(gap, info.channels);
        position += gap;
      }
      position += frame.header.frames;
      yield block;
    }
  }

  return {
    stated,
    blocks,
    laterWarnings(found) {
      if (lost > 0) {
        return [`Some of the file's blocks are damaged: ${lost} frames of silence take their place.`];
      }
      return info.frames > found ? [cutOff(`its header promises ${info.frames} frames, ${found} are there.`)] : [];
    },
  };
}

/** The sound of a frame; null if it is damaged, or of another stream. */
function decoded({ bytes, header }: FlacFrame, info: FlacInfo): Block | null {
  if (!bytes || header.channels !== info.channels) return null;
  try {
    return decodeFlacFrame(bytes, info.bitDepth);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** Pieces that other containers keep whole, as frames: what begins like none, headers say, is passed over. */
export function* flacFrames(pieces: Iterable<Uint8Array>): Generator<FlacFrame> {
  for (const piece of pieces) {
    const header = flacFrameHeader(piece, 0);
    if (header) yield { header, bytes: flacSum(piece) === 0 ? piece : null };
  }
}

const SILENCE_AT_ONCE = 65_536;

function* silence(frames: number, channels: number): Generator<Block> {
  for (let at = 0; at < frames; at += SILENCE_AT_ONCE) {
    const count = Math.min(SILENCE_AT_ONCE, frames - at);
    yield Array.from({ length: channels }, () => new Float32Array(count));
  }
}
