import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import { md5 } from '@noble/hashes/legacy';
import { concatenated, type SoundEncoder, viewOf } from '@tambur/core';
import { FlacOutputFormat } from 'mediabunny';
import { VENDOR, vorbisComments } from './comments.ts';
import { ascii, type EncoderMaker } from './encoder.ts';
import { type PacketEncoder, packetEncoder, planar, type Sample } from './packets.ts';

const STREAM_INFO = 0;
const VORBIS_COMMENT = 4;
const STREAM_INFO_BYTES = 34;

function metadataBlock(type: number, isLast: boolean, body: Uint8Array): Uint8Array {
  const head = new Uint8Array(4);
  viewOf(head).setUint32(0, body.length);
  head[0] = type | (isLast ? 0x80 : 0);
  return concatenated([head, body]);
}

/** 16 bits go in as whole numbers, 24 as floating-point numbers, which hold them exactly. */
function sampleOf(block: readonly Float32Array[], bits: number): Sample {
  const sample = planar(block);
  if (bits !== 16) return sample;
  const data = Int16Array.from(sample.data, (value) => Math.round(value * 32_768));
  return { format: 's16-planar', data, frames: sample.frames };
}

/** The body of the block that describes the stream, from what the encoder gives: marker, that block, and more. */
function streamInfo(description: Uint8Array | null): Uint8Array {
  const isMarked = description && String.fromCharCode(...description.subarray(0, 4)) === 'fLaC';
  const at = isMarked ? 8 : 4;
  if (!description || description.length < at + STREAM_INFO_BYTES) {
    throw new Error('the encoder of FLAC described no stream');
  }
  return description.slice(at, at + STREAM_INFO_BYTES);
}

// The module is loaded when it is first used.
registerFlacEncoder();

/** Samples as the check sum of a stream sees them: frame by frame, little-endian, in whole bytes (RFC 9639, 8.2). */
function summed(block: readonly Float32Array[], bits: number): Uint8Array {
  const size = bits / 8;
  const frames = block[0]?.length ?? 0;
  const scale = 2 ** (bits - 1);
  const out = new Uint8Array(frames * block.length * size);
  let at = 0;
  for (let frame = 0; frame < frames; frame++) {
    for (const samples of block) {
      const value = Math.round((samples[frame] ?? 0) * scale);
      for (let k = 0; k < size; k++) out[at++] = value >> (8 * k);
    }
  }
  return out;
}

/** Where in the file the block that describes the stream begins, and what of it only the end knows. */
const INFO_AT = 8;
const SIZES_AT = INFO_AT + 4;
const SUM_AT = INFO_AT + 18;

/**
 * FLAC (RFC 9639). The frames go out as they come; the sizes of the smallest and the largest of them, and the check sum of
 * the sound, are put into the stream's description at the end.
 */
export const encodeFlac: EncoderMaker = async (order): Promise<SoundEncoder> => {
  const { sampleRate, channels, bits, frames, tags } = order;
  const encoder: PacketEncoder = await packetEncoder(new FlacOutputFormat(), { codec: 'flac' }, sampleRate, channels);
  const sum = md5.create();
  let isStarted = false;
  let least = Number.POSITIVE_INFINITY;
  let most = 0;
  const head = (): Uint8Array => {
    const info = streamInfo(encoder.description());
    const view = viewOf(info);
    // 36 bits of length stand behind 20 of rate, 3 of channels and 5 of depth.
    info[13] = ((info[13] ?? 0) & 0xf0) | Math.floor(frames / 2 ** 32);
    view.setUint32(14, frames % 2 ** 32);
    const comments = vorbisComments(tags, VENDOR);
    return concatenated([
      ascii('fLaC'),
      metadataBlock(STREAM_INFO, tags.length === 0, info),
      ...(tags.length ? [metadataBlock(VORBIS_COMMENT, true, comments)] : []),
    ]);
  };
  const write = (packets: readonly { readonly data: Uint8Array }[]): Uint8Array => {
    if (packets.length === 0) return new Uint8Array(0);
    const start = isStarted ? [] : [head()];
    isStarted = true;
    for (const { data } of packets) {
      least = Math.min(least, data.length);
      most = Math.max(most, data.length);
    }
    return concatenated([...start, ...packets.map(({ data }) => data)]);
  };
  return {
    async push(block) {
      sum.update(summed(block, bits));
      return write(await encoder.push(sampleOf(block, bits)));
    },
    finish: async () => write(await encoder.finish()),
    amendments() {
      const sizes = [least, most].flatMap((size) => [size >> 16, size >> 8, size]);
      return [
        { at: SIZES_AT, bytes: Uint8Array.from(sizes) },
        { at: SUM_AT, bytes: sum.digest() },
      ];
    },
  };
};
