import { registerAacEncoder } from '@mediabunny/aac-encoder';
import type { SoundEncoder } from '@tambur/core';
import { Mp4OutputFormat } from 'mediabunny';
import type { EncoderMaker } from './encoder.ts';
import { mp4File } from './mp4.ts';
import { type Packet, packetEncoder } from './packets.ts';

const PACKET_FRAMES = 1024;
/** What the encoder puts in front: one packet (its initial padding; measured by `encoders.test.ts`). */
const ENCODER_DELAY = 1024;
/** A packet of silence goes in before the sound: the encoder's first one is badly off where sound begins at once. */
const LEAD = 1024;
const DELAY = ENCODER_DELAY + LEAD;

// The module is loaded when it is first used.
registerAacEncoder();

/** AAC-LC in an MPEG-4 file. */
export const encodeAac: EncoderMaker = async (order): Promise<SoundEncoder> => {
  const { sampleRate, channels, bitRate, frames, tags } = order;
  const encoder = await packetEncoder(new Mp4OutputFormat(), { codec: 'aac', bitrate: bitRate }, sampleRate, channels);
  const packets: Uint8Array[] = [];
  const take = (ready: readonly Packet[]) => packets.push(...ready.map(({ data }) => data));
  let hasLead = false;
  return {
    async push(block) {
      if (!hasLead) take(await encoder.push(Array.from({ length: channels }, () => new Float32Array(LEAD))));
      hasLead = true;
      take(await encoder.push(block));
      return new Uint8Array(0);
    },
    async finish() {
      take(await encoder.finish());
      const config = encoder.description();
      if (!config) throw new Error('the AAC encoder did not describe its stream');
      const needed = Math.ceil((frames + DELAY) / PACKET_FRAMES);
      if (packets.length < needed) throw new Error(`${packets.length} AAC packets, and ${needed} are needed`);
      return mp4File({
        sampleRate,
        channels,
        bitRate,
        config,
        packets,
        packetFrames: PACKET_FRAMES,
        delay: DELAY,
        frames,
        tags,
      });
    },
    close: () => encoder.close(),
  };
};
