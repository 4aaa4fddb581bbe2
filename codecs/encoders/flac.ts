import { md5 } from '@noble/hashes/legacy';
import { concatenated, encodeFlacFrame, FLAC_BLOCK_FRAMES, levelsOf, type SoundEncoder, viewOf } from '@tambur/core';
import { VENDOR, vorbisComments } from './comments.ts';
import { ascii, type EncoderMaker, noHold, Pieces } from './encoder.ts';

const STREAM_INFO = 0;
const VORBIS_COMMENT = 4;
const STREAM_INFO_BYTES = 34;

function metadataBlock(type: number, isLast: boolean, body: Uint8Array): Uint8Array {
  const head = new Uint8Array(4);
  viewOf(head).setUint32(0, body.length);
  head[0] = type | (isLast ? 0x80 : 0);
  return concatenated([head, body]);
}

/** The description of a stream (RFC 9639, 8.2); what only the end knows is 0, which means unknown. */
function streamInfo(sampleRate: number, channels: number, bits: number, frames: number): Uint8Array {
  const info = new Uint8Array(STREAM_INFO_BYTES);
  const view = viewOf(info);
  view.setUint16(0, FLAC_BLOCK_FRAMES);
  view.setUint16(2, FLAC_BLOCK_FRAMES);
  // 20 bits of rate, 3 of channels, 5 of depth, 36 of length.
  view.setUint32(10, (sampleRate << 12) | ((channels - 1) << 9) | ((bits - 1) << 4) | Math.floor(frames / 2 ** 32));
  view.setUint32(14, frames % 2 ** 32);
  return info;
}

/** Where in the file the block that describes the stream begins, and what of it only the end knows. */
const INFO_AT = 8;
const SIZES_AT = INFO_AT + 4;
const SUM_AT = INFO_AT + 18;

/** Samples as the checksum of a stream sees them: frame by frame, little-endian, in whole bytes (RFC 9639, 8.2). */
function summed(channels: readonly Int32Array[], bits: number): Uint8Array {
  const size = Math.ceil(bits / 8);
  const frames = channels[0]?.length ?? 0;
  const out = new Uint8Array(frames * channels.length * size);
  let at = 0;
  for (let frame = 0; frame < frames; frame++) {
    for (const samples of channels) {
      for (let k = 0; k < size; k++) out[at++] = (samples[frame] ?? 0) >> (8 * k);
    }
  }
  return out;
}

/**
 * FLAC (RFC 9639), in blocks as core makes them. The frames go out as they come; the sizes of the smallest and the
 * largest of them, and the checksum of the sound, are put into the stream's description at the end.
 */
export const encodeFlac: EncoderMaker = async ({ sampleRate, channels, bits, frames, tags }): Promise<SoundEncoder> => {
  const sum = md5.create();
  const pieces = new Pieces(channels, FLAC_BLOCK_FRAMES);
  let least = Number.POSITIVE_INFINITY;
  let most = 0;
  let count = 0;
  let ready: Uint8Array[] = [
    ascii('fLaC'),
    metadataBlock(STREAM_INFO, tags.length === 0, streamInfo(sampleRate, channels, bits, frames)),
    ...(tags.length ? [metadataBlock(VORBIS_COMMENT, true, vorbisComments(tags, VENDOR))] : []),
  ];
  const encode = (piece: readonly Float32Array[]) => {
    const levels = piece.map((samples) => levelsOf(samples, bits));
    sum.update(summed(levels, bits));
    const frame = encodeFlacFrame({ sampleRate, channels, bits }, count++, levels);
    least = Math.min(least, frame.length);
    most = Math.max(most, frame.length);
    ready.push(frame);
  };
  const take = (): Uint8Array => {
    const out = concatenated(ready);
    ready = [];
    return out;
  };
  return {
    async push(block) {
      pieces.push(block, encode);
      return take();
    },
    async finish() {
      pieces.finish(encode);
      return take();
    },
    amendments() {
      const sizes = [least, most].flatMap((size) => [size >> 16, size >> 8, size]);
      return [
        { at: SIZES_AT, bytes: Uint8Array.from(sizes) },
        { at: SUM_AT, bytes: sum.digest() },
      ];
    },
    close: noHold,
  };
};
