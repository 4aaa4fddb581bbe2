import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import {
  type ClipSettings,
  type Facts,
  type Finding,
  InputError,
  makeClip,
  type RenderReport,
  type Target,
} from '@tambur/core';
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
    const made = await makeClip(source, task.settings, task.target, {
      stem: task.stem,
      onProgress: (done) => task.progress.postMessage(done),
    });
    const file = await open(join(task.folder, made.fileName), 'wx');
    try {
      await file.writeFile(made.bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    return {
      name: made.fileName,
      bytes: made.bytes.length,
      sha256: createHash('sha256').update(made.bytes).digest('hex'),
      facts: made.opened.facts,
      report: made.report,
      findings: made.findings,
    };
  } catch (error) {
    if (error instanceof InputError) return { refused: error.message };
    throw error;
  } finally {
    await sound.close();
    task.progress.close();
  }
}
