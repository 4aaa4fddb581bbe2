import { openSourceStream } from '@tambur/codecs';
import { InputError, type Player, playAlone } from '@tambur/core';
import { openDiskFile } from '@tambur/disk';
import type { SourceFiles } from '../storage/data-folder.ts';
import { asDiskError } from '../storage/disk.ts';
import type { SoundFacts } from '../storage/sound-file.ts';
import { SoundKeeper } from '../storage/sound-keeper.ts';

export interface DeviceTask {
  /** Where the finished file is. */
  readonly file: string;
  readonly player: Player;
  /** Where what is heard goes. */
  readonly files: SourceFiles;
}

export type DeviceOutcome = SoundFacts | { readonly refused: string };

/** Writes what is heard of a finished file on a device, block by block: read as the device reads it, through its loudspeaker. */
export default async function playOnDevice(task: DeviceTask): Promise<DeviceOutcome> {
  const bytes = openDiskFile(task.file);
  try {
    const { player, files } = task;
    const playing = await playAlone(bytes, player, openSourceStream);
    const { sampleRate, channels } = playing;
    const keeper = await SoundKeeper.open(files, channels, true);
    try {
      let frames = 0;
      for await (const block of playing.heard()) {
        await keeper.add(block);
        frames += block[0]?.length ?? 0;
      }
      await keeper.end();
      return { sampleRate, channels, frames };
    } finally {
      await keeper.close();
    }
  } catch (error) {
    const shown = asDiskError(error);
    if (shown instanceof InputError) return { refused: shown.message };
    throw error;
  } finally {
    bytes.close();
  }
}
