import type { EncoderMaker } from './encoder.ts';

/** Every encoder by the id of its encoding; each is large, so it is loaded when it is first used. A new one: its file, and its line here. */
export const encoders: Readonly<Record<string, () => Promise<EncoderMaker>>> = {
  mp3: async () => (await import('./mp3.ts')).encodeMp3,
  aac: async () => (await import('./aac.ts')).encodeAac,
  flac: async () => (await import('./flac.ts')).encodeFlac,
  vorbis: async () => (await import('./vorbis.ts')).encodeVorbis,
  opus: async () => (await import('./opus.ts')).encodeOpus,
};
