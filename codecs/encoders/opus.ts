import { concatenated, interleave, type SoundEncoder, viewOf } from '@tambur/core';
import { createEncoder } from 'libopus-wasm';
import { VENDOR, vorbisComments } from './comments.ts';
import { ascii, type EncoderMaker, Pieces } from './encoder.ts';
import { headerPages, OggWriter, page } from './ogg.ts';

/** 20 ms at 48 000 Hz. */
const PACKET_FRAMES = 960;
const PER_PAGE = 50;
const SERIAL = 1;

/** The identification header (RFC 7845, section 5.1). */
function identification(channels: number, preSkip: number, sampleRate: number): Uint8Array {
  const out = new Uint8Array(19);
  out.set(ascii('OpusHead'));
  out[8] = 1;
  out[9] = channels;
  viewOf(out).setUint16(10, preSkip, true);
  viewOf(out).setUint32(12, sampleRate, true);
  return out;
}

/** Opus in Ogg (RFC 7845): frames before the sound are skipped, the last page's granule says where it ends. */
export const encodeOpus: EncoderMaker = async (order): Promise<SoundEncoder> => {
  const { sampleRate, bitRate, frames, tags } = order;
  const channels = order.channels === 1 ? 1 : 2;
  const encoder = await createEncoder({ sampleRate: 48_000, channels, bitrate: bitRate });
  const preSkip = encoder.getLookahead();
  const pieces = new Pieces(channels, PACKET_FRAMES);
  const writer = new OggWriter(SERIAL, 2, PER_PAGE);
  const head = identification(channels, preSkip, sampleRate);
  const comments = concatenated([ascii('OpusTags'), vorbisComments(tags, VENDOR)]);
  let ready: Uint8Array[] = [
    page([head.length], head, { serial: SERIAL, number: 0, granule: 0n, isFirst: true }),
    ...headerPages([comments], SERIAL, 1),
  ];
  let coded = 0;
  const encode = (piece: readonly Float32Array[]) => {
    const packet = encoder.encodeFloat(interleave(piece, new Float32Array(PACKET_FRAMES * channels)));
    coded += PACKET_FRAMES;
    ready.push(writer.add(packet, BigInt(coded)));
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
      pieces.finishWhole(encode);
      // What the encoder still holds comes out after some silence.
      const silence = Array.from({ length: channels }, () => new Float32Array(PACKET_FRAMES));
      while (coded < frames + preSkip) encode(silence);
      ready.push(writer.finish(BigInt(frames + preSkip)));
      return take();
    },
    close: () => encoder.free(),
  };
};
