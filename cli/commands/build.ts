import { dirname, join, resolve } from 'node:path';
import { createDiskStore, readJobZip, ZipFile } from '@tambur/codecs/node';
import {
  InputError,
  isZip,
  type JobDoc,
  parseDocument,
  readSheet,
  sheetFor,
  type Target,
  targetOf,
} from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { headOf, readText, withTemporaryFolder } from '../files.ts';
import { makeSet, type SetOptions, type SetOrder, type SetSource } from '../make-set.ts';
import type { Output } from '../output.ts';
import { followFiles } from '../watch.ts';
import { withSetOptions } from './make.ts';

export interface BuildOptions extends SetOptions {
  /** Builds again whenever one of the files has changed, until it is ended. */
  readonly watch?: boolean;
}

/** A job that can be built, and the files that it is made of. */
interface OpenJob {
  readonly order: SetOrder;
  readonly files: readonly string[];
}

/** The sources of an export, put where they can be read. */
async function unpacked(path: string, folder: string): Promise<OpenJob> {
  const zip = await ZipFile.open(path, path);
  try {
    const { manifest, job, sheet, ownLists } = await readJobZip(zip, path);
    const sources = new Map<string, SetSource>();
    for (const { id, sha256, reading, track } of manifest.sources) {
      const file = join(folder, sha256);
      const store = createDiskStore(file);
      try {
        for await (const piece of zip.read(`sources/${sha256}`, sha256)) store.write(piece);
        store.written();
      } finally {
        store.close();
      }
      sources.set(id, { path: file, options: { track, readAs: reading ?? undefined } });
    }
    return { order: { job, sheet: sheetFor(sheet, job.variant, job.values), sources, ownLists }, files: [path] };
  } finally {
    zip.close();
  }
}

/** A sheet that a job names: by a file beside it, or by the id of one that ships with Tambur. */
async function sheetBeside(job: JobDoc, folder: string): Promise<{ readonly sheet: Target; readonly file?: string }> {
  if (!/[./\\]/.test(job.sheet)) return { sheet: targetOf(job.sheet) };
  const file = resolve(folder, job.sheet);
  return { sheet: readSheet(await readText(file, 'name a sheet'), file), file };
}

/** A job written by hand: its clips name their sources by paths from where it lies. */
async function written(path: string): Promise<OpenJob> {
  const job = parseDocument('job', await readText(path, 'name a job'), path);
  if (Object.keys(job.ownLists).length) {
    throw new InputError(
      'bad-setting',
      `${path}: ownLists are part of an exported job; name the device's list with --list.`,
    );
  }
  const folder = dirname(path);
  const { sheet, file } = await sheetBeside(job, folder);
  const names = job.clips.flatMap(({ pieces }) => pieces.map(({ source }) => source));
  const sources = new Map(names.map((name) => [name, { path: join(folder, name), options: {} }]));
  return {
    order: { job, sheet: sheetFor(sheet, job.variant, job.values), sources },
    files: [path, ...(file ? [file] : []), ...[...sources.values()].map((source) => source.path)],
  };
}

export async function build(output: Output, path: string, options: BuildOptions): Promise<number> {
  const made = async ({ order, files }: OpenJob) => {
    return { code: await makeSet(output, order, { ...options, dependsOn: files }), files };
  };
  const once = async () =>
    isZip(headOf(path, 4))
      ? withTemporaryFolder(async (folder) => made(await unpacked(path, folder)))
      : made(await written(path));
  let last = await once();
  if (!options.watch) return last.code;
  return followFiles(last.files, async () => {
    try {
      last = await once();
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      output.words(error.message);
    }
    return last.files;
  });
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSetOptions(command.argument('<job>', 'an exported job, or a job as JSON beside its sources'))
    .option('--watch', 'build again whenever a file has changed, until it is ended')
    .action(async (job: string, options) => exitWith(await build(output, job, { ...options, debug: isDebugging() })));
