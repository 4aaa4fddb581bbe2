import { type FileHandle, open } from 'node:fs/promises';
import { deinterleave, type Facts, interleave, type PcmReader, PEAK_STEPS } from '@tambur/core';
import { writeAll } from './disk.ts';

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

/** Samples gathered before they are written. */
const BUFFERED = 1 << 19;

/** Writes decoded sound frame by frame; numbers are little-endian, as on every machine that Node 20 supports. */
export function soundWriter(file: FileHandle, channelCount: number) {
  const buffer = new Float32Array(Math.ceil(BUFFERED / channelCount) * channelCount);
  let filled = 0;
  const empty = async () => {
    await writeAll(file, new Uint8Array(buffer.buffer, 0, filled * BYTES));
    filled = 0;
  };
  return {
    async add(channels: readonly Float32Array[]): Promise<void> {
      const frames = channels[0]?.length ?? 0;
      for (let at = 0; at < frames; ) {
        const count = Math.min(frames - at, (buffer.length - filled) / channelCount);
        const block = channels.map((samples) => samples.subarray(at, at + count));
        interleave(block, buffer.subarray(filled, filled + count * channelCount));
        filled += count * channelCount;
        at += count;
        if (filled === buffer.length) await empty();
      }
    },
    /** Writes what is left. */
    end: empty,
  };
}

/** Writes lists of numbers one after the other into a new file, safely on the disk. */
export async function writeNumbers(path: string, lists: readonly Float32Array[]): Promise<void> {
  const file = await open(path, 'wx');
  try {
    for (const list of lists) await writeAll(file, new Uint8Array(list.buffer, list.byteOffset, list.byteLength));
    await file.sync();
  } finally {
    await file.close();
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
