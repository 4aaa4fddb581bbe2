import type { ByteFile, Library, OpenEncoder, SecondReading, Work } from '@tambur/core';
import { EncodedPacketSink } from 'mediabunny';
import { withMedia } from '../formats/tags.ts';
import { openSourceStream } from '../open-source.ts';
import type { EncoderMaker } from './encoder.ts';

/** Every encoder by the id of its encoding. A new one: its file, its line here, and its entry in core's `compressed.ts`. */
const encoders: Readonly<Record<string, () => Promise<EncoderMaker>>> = {
  mp3: async () => (await import('./mp3.ts')).encodeMp3,
  aac: async () => (await import('./aac.ts')).encodeAac,
  flac: async () => (await import('./flac.ts')).encodeFlac,
  vorbis: async () => (await import('./vorbis.ts')).encodeVorbis,
  opus: async () => (await import('./opus.ts')).encodeOpus,
};

/** Encoders are large, so each is loaded when it is first used. */
const openEncoder: OpenEncoder = async (order) => {
  const load = encoders[order.encoding];
  if (!load) throw new RangeError(`no encoder of ${order.encoding}`);
  const encoder = await load();
  return encoder(order);
};

/**
 * A finished file as the media library reads it: a parser that shares nothing with the reader of `formats/`. It counts
 * packets, so that delay and padding are still in its length.
 */
const readAgain = (file: ByteFile, work: Work): Promise<SecondReading> =>
  withMedia(file, async (input) => {
    const track = await input.getPrimaryAudioTrack();
    if (!track?.codec) throw new Error('the media library finds no sound in the finished file');
    let seconds = 0;
    let packets = 0;
    for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) {
      await work.check();
      seconds += packet.duration;
      packets++;
    }
    if (packets === 0) throw new Error('the media library finds no packet of sound in the finished file');
    const { sampleRate } = track;
    return {
      encoding: track.codec,
      sampleRate,
      channels: track.numberOfChannels,
      frames: Math.round(seconds * sampleRate),
    };
  });

/** What libraries encode, and two ways to read it again. */
export const library: Library = { openEncoder, read: (file) => openSourceStream(file), readAgain };
