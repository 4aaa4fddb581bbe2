import { open, readFile } from 'node:fs/promises';
import { openSource } from '@tambur/codecs';
import { coarser, type Facts, InputError, type InputErrorCode, PEAK_STEP, PEAK_STEPS, peaksOf } from '@tambur/core';
import type { SourceFiles } from '../storage/data-folder.ts';
import { writeSound } from '../storage/sound-file.ts';

/** Errors lose their class on the way between threads, so what a user can mend travels as a value. */
export type ImportOutcome =
  | { readonly facts: Facts }
  | { readonly refused: { readonly code: InputErrorCode; readonly message: string } };

/** Decodes an uploaded file once: its sound and its peaks go beside it on the disk, its facts come back. */
export default async function decodeUpload(files: SourceFiles): Promise<ImportOutcome> {
  try {
    const { facts, pcm } = await openSource(await readFile(files.original));
    const sound = await open(files.sound, 'wx');
    try {
      await writeSound(sound, pcm.channels);
      await sound.sync();
    } finally {
      await sound.close();
    }
    const peaks = await open(files.peaks, 'wx');
    try {
      const finest = peaksOf(pcm.channels, PEAK_STEP);
      for (const step of PEAK_STEPS) {
        const { values } = step === PEAK_STEP ? finest : coarser(finest, step / PEAK_STEP);
        await peaks.write(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
      }
      await peaks.sync();
    } finally {
      await peaks.close();
    }
    return { facts };
  } catch (error) {
    if (error instanceof InputError) return { refused: { code: error.code, message: error.message } };
    throw error;
  }
}
