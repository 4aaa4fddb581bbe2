import type { FileHandle } from 'node:fs/promises';
import { deinterleave, type Facts, interleave, type PcmReader, PEAK_STEPS } from '@tambur/core';

const BYTES = Float32Array.BYTES_PER_ELEMENT;

/** Bytes of `count` frames from `start` of a decoded sound on disk. */
export async function readSoundBytes(
  file: FileHandle,
  channelCount: number,
  start: number,
  count: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const frameBytes = channelCount * BYTES;
  const bytes = new Uint8Array(count * frameBytes);
  const { bytesRead } = await file.read(bytes, 0, bytes.length, start * frameBytes);
  if (bytesRead !== bytes.length) throw new Error('the decoded sound on disk is shorter than its facts say');
  return bytes;
}

/** Reads ranges of a decoded sound on disk. */
export const soundFileReader = (file: FileHandle, facts: Facts): PcmReader => ({
  sampleRate: facts.sampleRate,
  channelCount: facts.channels,
  frames: facts.frames,
  read: async (start, count) => {
    const bytes = await readSoundBytes(file, facts.channels, start, count);
    return deinterleave(new Float32Array(bytes.buffer), facts.channels);
  },
});

/** Frames written at a time. */
const BLOCK = 262_144;

/** Writes decoded sound frame by frame; numbers are little-endian, as on every machine that Node 20 supports. */
export async function writeSound(file: FileHandle, channels: readonly Float32Array[]): Promise<void> {
  const frames = channels[0]?.length ?? 0;
  for (let at = 0; at < frames; at += BLOCK) {
    const block = channels.map((samples) => samples.subarray(at, at + BLOCK));
    const samples = interleave(block, new Float32Array((block[0]?.length ?? 0) * channels.length));
    await file.write(new Uint8Array(samples.buffer));
  }
}

/** Place of one step's peaks inside a peaks file. */
export function peaksRange(facts: Facts, step: number): { offset: number; length: number } | null {
  let offset = 0;
  for (const stored of PEAK_STEPS) {
    const length = Math.ceil(facts.frames / stored) * facts.channels * 2 * BYTES;
    if (stored === step) return { offset, length };
    offset += length;
  }
  return null;
}
