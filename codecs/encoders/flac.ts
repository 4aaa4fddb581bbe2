import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import { concatenated, type SoundEncoder, viewOf } from '@tambur/core';
import { FlacOutputFormat } from 'mediabunny';
import { VENDOR, vorbisComments } from './comments.ts';
import type { EncoderMaker } from './encoder.ts';
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

let isRegistered = false;

/**
 * FLAC (RFC 9639). The frames go out as they come. The stream's description states its length, and leaves the check sum
 * of the sound and the sizes of frames open, as the format allows: they are known only at the end.
 */
export const encodeFlac: EncoderMaker = async (order): Promise<SoundEncoder> => {
  const { sampleRate, channels, bits, frames, tags } = order;
  if (!isRegistered) registerFlacEncoder();
  isRegistered = true;
  const encoder: PacketEncoder = await packetEncoder(new FlacOutputFormat(), { codec: 'flac' }, sampleRate, channels);
  let isStarted = false;
  const head = (): Uint8Array => {
    const info = streamInfo(encoder.description());
    const view = viewOf(info);
    // 36 bits of length stand behind 20 of rate, 3 of channels and 5 of depth.
    info[13] = ((info[13] ?? 0) & 0xf0) | Math.floor(frames / 2 ** 32);
    view.setUint32(14, frames % 2 ** 32);
    const comments = vorbisComments(tags, VENDOR);
    return concatenated([
      Uint8Array.from('fLaC', (char) => char.charCodeAt(0)),
      metadataBlock(STREAM_INFO, tags.length === 0, info),
      ...(tags.length ? [metadataBlock(VORBIS_COMMENT, true, comments)] : []),
    ]);
  };
  const write = (packets: readonly { readonly data: Uint8Array }[]): Uint8Array => {
    if (packets.length === 0) return new Uint8Array(0);
    const start = isStarted ? [] : [head()];
    isStarted = true;
    return concatenated([...start, ...packets.map(({ data }) => data)]);
  };
  return {
    push: async (block) => write(await encoder.push(sampleOf(block, bits))),
    finish: async () => write(await encoder.finish()),
  };
};
