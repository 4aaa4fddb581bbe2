import type { ByteFile, SecondReading, Work } from '@tambur/core';
import { EncodedPacketSink } from 'mediabunny';
import { withMedia } from '../formats/tags.ts';

/**
 * A finished file as the media library reads it: a parser that shares nothing with the reader of `formats/`. It counts
 * packets, so that delay and padding are still in its length.
 */
export const readAgain = (file: ByteFile, work: Work): Promise<SecondReading> =>
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
