import { existsSync } from 'node:fs';
import { type FileHandle, open } from 'node:fs/promises';
import { openSourceStream } from '@tambur/codecs';
import { deinterleave, type Facts, interleave, type PcmReader, PEAK_STEPS, type Reading, Room } from '@tambur/core';
import { openDiskFile } from '@tambur/disk';
import type { SourceFiles } from './data-folder.ts';
import { writeAll } from './disk.ts';

const BYTES = Float32Array.BYTES_PER_ELEMENT;

/** What is to be known of a sound so that its ranges can be read. */
export type SoundFacts = Pick<Facts, 'sampleRate' | 'channels' | 'frames'>;

/** The sound of a source for as long as it is open. */
export interface SourceSound extends PcmReader {
  close(): Promise<void>;
}

/**
 * Opens a source's sound: the original, where its samples can be read at any place, and what was decoded of it otherwise.
 * @param reading what headerless bytes are
 */
export async function openSourceSound(
  { original, sound }: Pick<SourceFiles, 'original' | 'sound'>,
  facts: SoundFacts,
  reading: Reading | null,
): Promise<SourceSound> {
  if (existsSync(sound)) {
    const file = await open(sound, 'r');
    return { ...soundFileReader(file, facts), close: () => file.close() };
  }
  const file = openDiskFile(original);
  try {
    const { reader } = await openSourceStream(file, { readAs: reading ?? undefined });
    if (!reader) throw new Error('the decoded sound of a source is gone from the disk');
    return { ...reader, frames: facts.frames, close: async () => file.close() };
  } catch (error) {
    file.close();
    throw error;
  }
}

/** Reads ranges of a decoded sound on disk. */
export const soundFileReader = (file: FileHandle, { sampleRate, channels, frames }: SoundFacts): PcmReader => ({
  sampleRate,
  channelCount: channels,
  frames,
  async read(start, count, room = new Room()) {
    const frameBytes = channels * BYTES;
    const bytes = room.bytes(count * frameBytes);
    const { bytesRead } = await file.read(bytes, 0, bytes.length, start * frameBytes);
    if (bytesRead !== bytes.length) throw new Error('the decoded sound on disk is shorter than its facts say');
    return deinterleave(new Float32Array(bytes.buffer, bytes.byteOffset, count * channels), channels, room);
  },
});

/** Samples gathered before they are written. */
const BUFFERED = 1 << 19;

/** After so many bytes the disk is asked to keep them, so that little is left to wait for at the end. */
const KEPT_AFTER = 1 << 27;

/**
 * Writes decoded sound frame by frame; numbers are little-endian, as on every machine that Node 20 supports. While one
 * buffer is being written the other is filled.
 */
export function soundWriter(file: FileHandle, channelCount: number) {
  const size = Math.ceil(BUFFERED / channelCount) * channelCount;
  let buffer = new Float32Array(size);
  let other = new Float32Array(size);
  let filled = 0;
  let sinceKept = 0;
  let writing: Promise<void> = Promise.resolve();
  const write = async (bytes: Uint8Array) => {
    await writeAll(file, bytes);
    sinceKept += bytes.length;
    if (sinceKept < KEPT_AFTER) return;
    sinceKept = 0;
    await file.datasync();
  };
  const empty = async () => {
    await writing;
    writing = write(new Uint8Array(buffer.buffer, 0, filled * BYTES));
    // What fails is thrown where it is waited for: at the next turn, or at the end.
    writing.catch(() => undefined);
    [buffer, other] = [other, buffer];
    filled = 0;
  };
  return {
    async add(channels: readonly Float32Array[]): Promise<void> {
      const frames = channels[0]?.length ?? 0;
      for (let at = 0; at < frames; ) {
        const count = Math.min(frames - at, (size - filled) / channelCount);
        const block = channels.map((samples) => samples.subarray(at, at + count));
        interleave(block, buffer.subarray(filled, filled + count * channelCount));
        filled += count * channelCount;
        at += count;
        if (filled === size) await empty();
      }
    },
    /** Writes what is left. */
    async end(): Promise<void> {
      await empty();
      await writing;
    },
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

/** What is stored of each step beside a source's sound, in this order; numbers for each channel of a bin. */
const STORED = { peaks: 2, powers: 1 } as const;
export type StoredKind = keyof typeof STORED;

/** Place of one step's peaks or powers inside a peaks file: all peaks come first, then all powers. Null if there is no such step. */
export function storedRange(
  facts: SoundFacts,
  kind: StoredKind,
  step: number,
): { offset: number; length: number } | null {
  const lengthOf = (numbers: number, each: number) => Math.ceil(facts.frames / each) * facts.channels * numbers * BYTES;
  let offset = 0;
  for (const [name, numbers] of Object.entries(STORED)) {
    for (const each of PEAK_STEPS) {
      const length = lengthOf(numbers, each);
      if (name === kind && each === step) return { offset, length };
      offset += length;
    }
  }
  return null;
}
