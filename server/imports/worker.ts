import { dirname } from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import { openSourceStream } from '@tambur/codecs';
import { type Facts, InputError, type InputErrorCode, type Reading, refuseTooLarge, surveyStream } from '@tambur/core';
import { openDiskFile } from '@tambur/disk';
import type { SourceFiles } from '../storage/data-folder.ts';
import { asDiskError, refuseWhatWillNotFit } from '../storage/disk.ts';
import { SoundKeeper } from '../storage/sound-keeper.ts';
import { smallWaveform } from '../storage/waveform.ts';
import { decodedBeside, isWorthAThread } from './decoded-beside.ts';

/** One upload to be decoded. */
export interface ImportTask {
  readonly files: SourceFiles;
  /** What headerless bytes are. */
  readonly reading: Reading | null;
  /** Which of several sounds. */
  readonly track: number;
  /** Receives how many frames have been decoded so far, and how many there may be. */
  readonly progress: MessagePort;
}

export interface ImportProgress {
  readonly frames: number;
  readonly expected: number | null;
}

/** Errors lose their class on the way between threads, so what a user can mend travels as a value. */
export type ImportOutcome =
  | { readonly facts: Facts; readonly waveform: string }
  | { readonly refused: { readonly code: InputErrorCode; readonly message: string } };

/** On the disk, for each channel of a frame: of decoded sound, and of its peaks. */
const SAMPLE_BYTES = 4;
const PEAK_BYTES = 0.1;

/** Progress is reported at most this often. */
const TELL_MS = 100;

/** A file may become so many bytes of sound, whatever its size, and beyond that so many times itself. */
const MOST_BYTES = 500_000_000;
// Silence in FLAC as most programs write it, of two channels in blocks of 4 096, becomes 2 400 times its size.
const MOST_TIMES = 4000;
/** After so many bytes the disk is looked at again. */
const LOOKED_AFTER = 256_000_000;

/** Keeps an eye on what a decoded sound takes: coded silence becomes thousands of times its size. */
class Room {
  private readonly folder: string;
  private readonly most: number;
  private taken = 0;
  private sinceLook = 0;

  constructor(folder: string, fileBytes: number) {
    this.folder = folder;
    this.most = Math.max(MOST_BYTES, MOST_TIMES * fileBytes);
  }

  /** @throws InputError if the sound takes too much */
  async take(bytes: number): Promise<void> {
    this.taken += bytes;
    this.sinceLook += bytes;
    refuseTooLarge('Its decoded sound', this.taken, this.most);
    if (this.sinceLook < LOOKED_AFTER) return;
    this.sinceLook = 0;
    await refuseWhatWillNotFit(this.folder, LOOKED_AFTER, 'The rest of its decoded sound');
  }
}

/**
 * Decodes an uploaded file once, block by block: its sound and its peaks go beside it on the disk, its facts come back.
 * Memory does not grow with the length of the sound.
 */
export default async function decodeUpload({ files, reading, track, progress }: ImportTask): Promise<ImportOutcome> {
  const tell = (frames: number, expected: number | null) =>
    progress.postMessage({ frames, expected } satisfies ImportProgress);
  tell(0, null);
  const original = openDiskFile(files.original);
  try {
    const options = { readAs: reading ?? undefined, track };
    const opened = await openSourceStream(original, options);
    const stream = isWorthAThread(original.size, opened)
      ? decodedBeside({ path: files.original, options }, opened)
      : opened;
    const { channels, expectedFrames } = stream.stated;
    // What can be read from the original at any place is not written again.
    const frameBytes = channels * (stream.reader ? PEAK_BYTES : PEAK_BYTES + SAMPLE_BYTES);
    await refuseWhatWillNotFit(dirname(files.sound), (expectedFrames ?? 0) * frameBytes, 'Its decoded sound');
    const room = new Room(dirname(files.sound), original.size);
    const keeper = await SoundKeeper.open(files, channels, !stream.reader);
    let frames = 0;
    let told = 0;
    try {
      const facts = await surveyStream(stream, async (block) => {
        await keeper.add(block);
        frames += block[0]?.length ?? 0;
        await room.take((block[0]?.length ?? 0) * frameBytes);
        if (performance.now() - told < TELL_MS) return;
        told = performance.now();
        tell(frames, expectedFrames);
      });
      const { peaks, powers } = await keeper.end();
      return { facts, waveform: smallWaveform(peaks, powers, channels) };
    } finally {
      await keeper.close();
    }
  } catch (error) {
    const shown = asDiskError(error);
    if (shown instanceof InputError) return { refused: { code: shown.code, message: shown.message } };
    throw error;
  } finally {
    original.close();
    progress.close();
  }
}
