import { join } from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import { library } from '@tambur/codecs';
import {
  type ClipOrder,
  type Facts,
  type Finding,
  folderOf,
  InputError,
  makeClip,
  type Reading,
  type RenderReport,
  settle,
  soundBytesOf,
  type Work,
} from '@tambur/core';
import { createDiskStore, sha256OfFile } from '@tambur/disk';
import type { SourceFiles } from '../storage/data-folder.ts';
import { asDiskError, refuseWhatWillNotFit } from '../storage/disk.ts';
import { openSourceSound } from '../storage/sound-file.ts';
import { SoundKeeper } from '../storage/sound-keeper.ts';

export interface BuildTask {
  readonly order: ClipOrder;
  readonly source: SourceFiles;
  /** What headerless bytes are. */
  readonly reading: Reading | null;
  /** The unfinished delivery's folder. */
  readonly folder: string;
  /** Where what pages read of its sound goes; null if none does. */
  readonly beside: SourceFiles | null;
  /** Receives numbers, 0..1. */
  readonly progress: MessagePort;
}

export type BuildOutcome =
  | {
      /** Within the delivery. */
      readonly path: string;
      readonly bytes: number;
      readonly sha256: string;
      readonly facts: Facts;
      readonly report: RenderReport;
      readonly findings: readonly Finding[];
    }
  | { readonly refused: string };

/** Makes one file of a delivery. */
export default async function buildFile(task: BuildTask): Promise<BuildOutcome> {
  const sound = await openSourceSound(task.source, task.order.facts, task.reading);
  try {
    const { order } = task;
    const chain = settle(order);
    // The folder of the card in which the sheet wants its files.
    const below = folderOf(order.target);
    const { channels, ends } = chain.stations;
    const samples = ends.plan.frames * channels.plan.matrix.length;
    const besideBytes = task.beside ? samples * Float32Array.BYTES_PER_ELEMENT : 0;
    await refuseWhatWillNotFit(task.folder, soundBytesOf(chain) + besideBytes, order.settings.name);
    const path = join(task.folder, below, chain.fileName);
    const store = createDiskStore(path);
    let keeper: SoundKeeper | null = null;
    try {
      keeper = task.beside && (await SoundKeeper.open(task.beside, channels.plan.matrix.length, true));
      // Where the build is not wanted any more, its thread is ended.
      const work: Work = { check: () => undefined, progress: (part) => task.progress.postMessage(part) };
      const hear = (block: readonly Float32Array[]) => keeper?.add(block);
      const made = await makeClip(chain, sound, work, { store, library, hear });
      await keeper?.end();
      return {
        path: below ? `${below}/${chain.fileName}` : chain.fileName,
        bytes: store.size,
        sha256: await sha256OfFile(path),
        facts: made.facts,
        report: made.report,
        findings: made.findings,
      };
    } finally {
      store.close();
      await keeper?.close();
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
