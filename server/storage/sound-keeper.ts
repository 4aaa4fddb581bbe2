import { type FileHandle, open } from 'node:fs/promises';
import { PeaksBuilder, PowersBuilder } from '@tambur/core';
import type { SourceFiles } from './data-folder.ts';
import { soundWriter, writeNumbers } from './sound-file.ts';

/** Puts beside a file what pages read of its sound in ranges, block by block: its peaks and powers, and its samples where they are wanted. */
export class SoundKeeper {
  private readonly files: Pick<SourceFiles, 'peaks'>;
  private readonly peaks: PeaksBuilder;
  private readonly powers: PowersBuilder;
  private readonly sound: FileHandle | null;
  private readonly writer: ReturnType<typeof soundWriter> | null;

  private constructor(files: Pick<SourceFiles, 'peaks'>, channels: number, sound: FileHandle | null) {
    this.files = files;
    this.peaks = new PeaksBuilder(channels);
    this.powers = new PowersBuilder(channels);
    this.sound = sound;
    this.writer = sound && soundWriter(sound, channels);
  }

  /** @param wantsSamples where they cannot be read from the file itself at any place */
  static async open(
    files: Pick<SourceFiles, 'peaks' | 'sound'>,
    channels: number,
    wantsSamples: boolean,
  ): Promise<SoundKeeper> {
    return new SoundKeeper(files, channels, wantsSamples ? await open(files.sound, 'wx') : null);
  }

  async add(block: readonly Float32Array[]): Promise<void> {
    this.peaks.add(block);
    this.powers.add(block);
    await this.writer?.add(block);
  }

  /** Puts everything safely on the disk; gives the finest peaks and powers. */
  async end(): Promise<{ readonly peaks: Float32Array; readonly powers: Float32Array }> {
    await this.writer?.end();
    await this.sound?.sync();
    const [peaks, powers] = [this.peaks.levels(), this.powers.levels()];
    await writeNumbers(this.files.peaks, [...peaks, ...powers]);
    return { peaks: peaks[0] ?? new Float32Array(0), powers: powers[0] ?? new Float32Array(0) };
  }

  async close(): Promise<void> {
    await this.sound?.close();
  }
}
