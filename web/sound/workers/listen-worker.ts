import { openSourceStream } from '@tambur/codecs';
import { Gathered, inMemory, type Pcm, type Player, playAlone, resample } from '@tambur/core';
import * as Comlink from 'comlink';
import { asRefusal, buffersOf, type Refused } from './transfer.ts';

const worker = {
  /**
   * What is heard of a finished file on a device: read as the device reads it, at its rate, through its loudspeaker.
   * @param rate Hz of what is given back
   */
  async onDevice(bytes: Uint8Array, player: Player, rate: number): Promise<Pcm | Refused> {
    try {
      const playing = await playAlone(inMemory(bytes), player, openSourceStream);
      const gathered = new Gathered();
      for await (const block of playing.heard()) gathered.add(block);
      const channels = gathered
        .channels(playing.channels)
        .map((samples) => resample(samples, playing.sampleRate, rate));
      const pcm = { sampleRate: rate, channels };
      return Comlink.transfer(pcm, buffersOf(pcm));
    } catch (error) {
      return asRefusal(error);
    }
  },
};

export type ListenWorker = typeof worker;

Comlink.expose(worker);
