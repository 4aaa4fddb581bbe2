import { open } from 'node:fs/promises';
import { join } from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import { library } from '@tambur/codecs';
import { createDiskStore } from '@tambur/codecs/node';
import {
  type ClipSettings,
  type Facts,
  type Finding,
  fileNameOf,
  fit,
  folderOf,
  InputError,
  makeClip,
  type RenderReport,
  soundBytesOf,
  type Target,
} from '@tambur/core';
import { asDiskError, refuseWhatWillNotFit } from '../storage/disk.ts';
import { soundFileReader } from '../storage/sound-file.ts';

export interface BuildTask {
  readonly soundFile: string;
  readonly facts: Facts;
  readonly settings: ClipSettings;
  readonly target: Target;
  readonly stem: string;
  /** The unfinished delivery's folder. */
  readonly folder: string;
  /** Receives numbers, 0..1. */
  readonly progress: MessagePort;
}

export type BuildOutcome =
  | {
      readonly name: string;
      readonly bytes: number;
      readonly sha256: string;
      readonly facts: Facts;
      readonly report: RenderReport;
      readonly findings: readonly Finding[];
    }
  | { readonly refused: string };

/** Makes one file of a delivery. */
export default async function buildFile(task: BuildTask): Promise<BuildOutcome> {
  const sound = await open(task.soundFile, 'r');
  try {
    const source = { facts: task.facts, reader: soundFileReader(sound, task.facts) };
    const chain = fit(task.facts, task.settings, task.target);
    // The folder of the card in which the sheet wants its files.
    const below = folderOf(task.target);
    await refuseWhatWillNotFit(task.folder, soundBytesOf(chain), task.settings.name);
    const store = createDiskStore(join(task.folder, below, fileNameOf(chain, task.stem)));
    try {
      const made = await makeClip(source, task.settings, task.target, {
        stem: task.stem,
        store,
        library,
        onProgress: (done) => task.progress.postMessage(done),
      });
      return {
        name: below ? `${below}/${made.fileName}` : made.fileName,
        bytes: store.size,
        sha256: store.sha256(),
        facts: made.facts,
        report: made.report,
        findings: made.findings,
      };
    } finally {
      store.close();
    }
  } catch (error) {
    const shown = asDiskError(error);
    if (shown instanceof InputError) return { refused: shown.message };
    throw error;
  } finally {
    await sound.close();
    task.progress.close();
  }
}
