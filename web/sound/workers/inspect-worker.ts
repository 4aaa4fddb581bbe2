import { openSource, openSourceStream } from '@tambur/codecs';
import { type Facts, inMemory, type Pcm, type Reading, surveyStream } from '@tambur/core';
import * as Comlink from 'comlink';
import { asRefusal, buffersOf, type Refused } from './transfer.ts';

const worker = {
  /** What a file is, from its bytes alone; null if the page has not the decoder to tell. */
  async inspect(bytes: Uint8Array, reading?: Reading): Promise<{ readonly facts: Facts } | Refused | null> {
    try {
      const stream = await openSourceStream(inMemory(bytes), { reading });
      return { facts: await surveyStream(stream, () => undefined) };
    } catch (error) {
      const refusal = asRefusal(error);
      return refusal.code === 'damaged' ? null : refusal;
    }
  },

  /** Opens a delivered file from its bytes, as anybody would. */
  async open(bytes: Uint8Array, reading?: Reading): Promise<Pcm> {
    const { pcm } = await openSource(bytes, { reading });
    return Comlink.transfer(pcm, buffersOf(pcm));
  },
};

export type InspectWorker = typeof worker;

Comlink.expose(worker);
