import { openSourceStream } from '@tambur/codecs';
import { Gathered, inMemory, insert, outContainerOf, type Pcm, type Player, readPlain, resample } from '@tambur/core';
import * as Comlink from 'comlink';
import { asRefusal, buffersOf, type Refused } from './transfer.ts';

const worker = {
  /**
   * What is heard of a finished file on a device: read as the device reads it, at its rate, through its loudspeaker.
   * @param rate Hz of what is given back
   */
  async onDevice(
    { bytes, path, container }: { readonly bytes: Uint8Array; readonly path: string; readonly container: string },
    player: Player,
    rate: number,
  ): Promise<Pcm | Refused> {
    try {
      const file = inMemory(bytes);
      // Of source code the samples alone come into the device's memory.
      const seen = outContainerOf(container).textOptions ? readPlain(file).data : file;
      const device = await insert([{ path, bytes: seen }], { player, lists: [], packs: [] }, openSourceStream);
      const [first] = device.shown;
      if (!first) return { code: 'not-audio', refused: device.refused[0]?.reason ?? 'The device does not show it.' };
      const playing = await device.play(first.file.path);
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
