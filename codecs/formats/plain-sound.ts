import {
  type ByteFile,
  frameCodec,
  type SampleEncoding,
  type SoundStream,
  type StatedFacts,
  soundBlocks,
} from '@tambur/core';
import { noSound } from './format.ts';

/** Plain samples out of a container that libraries read: core decodes them, with all of their bits. */
export function plainSound(stated: StatedFacts, encoding: SampleEncoding, data: ByteFile): SoundStream {
  const { channels, sampleRate, container } = stated;
  const codec = frameCodec(encoding, channels);
  const frames = Math.floor(data.size / codec.unitBytes);
  if (frames === 0) throw noSound(container);
  const file = { container, encoding, codec, sampleRate, channels, frames, data, tags: [], extras: [], warnings: [] };
  return {
    stated: { ...stated, soundBytes: frames * codec.unitBytes, expectedFrames: frames },
    blocks: () => soundBlocks(file),
  };
}
