import type { Library, OpenEncoder } from '@tambur/core';
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

/** What libraries encode, and two ways to read it again. */
export const library: Library = {
  openEncoder,
  read: (file) => openSourceStream(file),
  readAgain: async (file, work) => (await import('./read-again.ts')).readAgain(file, work),
};
