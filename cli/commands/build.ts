import { dirname, join, resolve } from 'node:path';
import {
  changeToEdition,
  InputError,
  isZip,
  type JobDoc,
  movedOn,
  newerEdition,
  parseDocument,
  readSheet,
  sheetFor,
  targetOf,
  whatChanges,
  withVariant,
} from '@tambur/core';
import { createDiskStore, readJobZip, ZipFile } from '@tambur/disk';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { headOf, readText, withTemporaryFolder } from '../files.ts';
import { makeSet } from '../make-set.ts';
import type { Output } from '../output.ts';
import type { SetOptions, SetOrder, SetSource } from '../set-order.ts';
import { FollowedFiles } from '../watch.ts';
import { withSetOptions } from './make.ts';

export interface BuildOptions extends SetOptions {
  /** Builds again whenever one of the files has changed, until it is ended. */
  readonly watch?: boolean;
}

/** The sources of an export, put where they can be read. */
async function unpacked(path: string, folder: string): Promise<SetOrder> {
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
    return { job, sheet: sheetFor(sheet, job.variant, job.values), sources, ownLists };
  } finally {
    zip.close();
  }
}

/** A job that names a sheet that ships, in the edition that it was made for. */
function inItsEdition(output: Output, path: string, written: JobDoc): Pick<SetOrder, 'job' | 'sheet'> {
  const job = { ...written, ...movedOn(written) };
  const { sheet: id, edition, variant, values } = job;
  const sheet = withVariant(targetOf(id, edition), variant);
  const newer = newerEdition(job);
  if (newer) {
    const taken = changeToEdition(job, newer);
    output.words(`${path} is made for edition ${sheet.edition} of ${sheet.name}. Edition ${newer.edition} differs:`);
    for (const line of whatChanges(sheet, withVariant(newer, taken.variant as string | null)))
      output.words(`  ${line}`);
    output.words(
      `Write "edition": ${newer.edition} into the job to take it, or "edition": ${sheet.edition}, "offered": ${newer.edition} to stay.`,
    );
  }
  return { job, sheet: sheetFor(sheet, null, values) };
}

/** A job with its sheet: by a file beside it, or by the id of one that ships with Tambur. */
async function withSheet(
  output: Output,
  path: string,
  job: JobDoc,
  files: FollowedFiles,
): Promise<Pick<SetOrder, 'job' | 'sheet'>> {
  if (!/[./\\]/.test(job.sheet)) return inItsEdition(output, path, job);
  const file = files.take(resolve(dirname(path), job.sheet));
  const sheet = readSheet(await readText(file, 'name a sheet'), file);
  return { job, sheet: sheetFor(sheet, job.variant, job.values) };
}

/** A job written by hand: its clips name their sources by paths from where it lies. */
async function written(output: Output, path: string, files: FollowedFiles): Promise<SetOrder> {
  const job = parseDocument('job', await readText(path, 'name a job'), path);
  if (Object.keys(job.ownLists).length) {
    throw new InputError(
      'bad-setting',
      `${path}: ownLists are part of an exported job; name the device's list with --list.`,
    );
  }
  const folder = dirname(path);
  const made = await withSheet(output, path, job, files);
  const names = new Set(job.clips.flatMap(({ pieces }) => pieces.map(({ source }) => source)));
  const sources = new Map([...names].map((name) => [name, { path: files.take(join(folder, name)), options: {} }]));
  return { ...made, sources };
}

export async function build(output: Output, path: string, options: BuildOptions): Promise<number> {
  const once = async (files: FollowedFiles) => {
    const made = (order: SetOrder) => makeSet(output, order, { ...options, dependsOn: files.all });
    return isZip(headOf(files.take(path), 4))
      ? withTemporaryFolder(async (folder) => made(await unpacked(path, folder)))
      : made(await written(output, path, files));
  };
  let files = new FollowedFiles();
  const code = await once(files);
  if (!options.watch) return code;
  for (;;) {
    await files.change();
    files = new FollowedFiles();
    try {
      await once(files);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      output.words(error.message);
    }
  }
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSetOptions(command.argument('<job>', 'an exported job, or a job as JSON beside its sources'))
    .option('--watch', 'build again whenever a file changes, until interrupted')
    .action(async (job: string, options) => exitWith(await build(output, job, { ...options, debug: isDebugging() })));
