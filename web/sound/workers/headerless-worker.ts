import { headerless, inMemory, likelyReadings, openSoundFile, type Pcm, type Reading } from '@tambur/core';
import * as Comlink from 'comlink';
import { asRefusal, buffersOf, type Refused } from './transfer.ts';

const worker = {
  /** What headerless bytes may be, the likeliest first. */
  likelyReadings: (bytes: Uint8Array, skip: number) => likelyReadings(inMemory(bytes), skip),

  /** Headerless bytes, decoded as somebody says. */
  readAs(bytes: Uint8Array, reading: Reading): { readonly pcm: Pcm } | Refused {
    try {
      const { pcm } = openSoundFile(headerless.read(inMemory(bytes), reading), bytes.length);
      return Comlink.transfer({ pcm }, buffersOf(pcm));
    } catch (error) {
      return asRefusal(error);
    }
  },
};

export type HeaderlessWorker = typeof worker;

Comlink.expose(worker);
