import { availableParallelism } from 'node:os';
import { basename, parse, resolve } from 'node:path';
import {
  EMPTY_JOB,
  InputError,
  type JobDoc,
  LONGEST_NAME,
  newClip,
  notes,
  readSlotTable,
  shortened,
  withSettings,
} from '@tambur/core';
import type { Command } from 'commander';
import { settingsFrom } from '../assignments.ts';
import type { Context } from '../command.ts';
import { filesOf, readText } from '../files.ts';
import { makeSet } from '../make-set.ts';
import { type Moment, moment, wholeFrom } from '../numbers.ts';
import type { Output } from '../output.ts';
import type { SetOptions } from '../set-order.ts';
import { collect, type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';
import { openOptions, type Source, withSource } from '../source.ts';

export interface MakeOptions extends SetOptions, Source, SheetChoice {
  readonly start?: Moment;
  readonly end?: Moment;
  readonly set: readonly string[];
  /** A table of what plays where. */
  readonly slots?: string;
}

/** Which clip plays where, by a table: the clip is named by its file, with its extension or without. */
async function placesFrom(path: string, files: readonly string[]): Promise<JobDoc['places']> {
  const known = new Map(files.flatMap((file, i) => [file, basename(file), parse(file).name].map((name) => [name, i])));
  return Object.fromEntries(
    readSlotTable(await readText(path, 'name a slot table'), path).map(({ number, cells }) => {
      const found = cells.map((cell) => known.get(cell)).find((index) => index !== undefined);
      if (found !== undefined) return [number, String(found)];
      const called = shortened(cells.join(', '), 80) || 'nothing';
      throw new InputError(
        'bad-setting',
        `${path}: number ${number} names ${called}, but no file of the set has that name.`,
      );
    }),
  );
}

export async function make(output: Output, given: readonly string[], options: MakeOptions): Promise<number> {
  const sheet = await sheetOf(options);
  const paths = await filesOf(given);
  const read = openOptions(options);
  const clips = paths.map((path, i) => {
    const settings = settingsFrom(parse(path).name.slice(0, LONGEST_NAME) || 'clip', options.set);
    return withSettings(newClip(String(i), settings.name, String(i)), settings);
  });
  const places = options.slots === undefined ? {} : await placesFrom(options.slots, paths);
  const job: JobDoc = {
    ...EMPTY_JOB,
    format: 2,
    title: basename(resolve(options.out)),
    sheet: sheet.id,
    variant: null,
    clips,
    places,
  };
  const sources = new Map(paths.map((path, i) => [String(i), { path, options: read }]));
  const { start, end } = options;
  return makeSet(output, { job, sheet, sources, start, end }, options);
}

/** A command that makes a set says where it goes, how fast, and what goes with it. */
export const withSetOptions = (command: Command): Command =>
  command
    .requiredOption('--out <dir>', 'folder to write into')
    .option('--jobs <n>', 'number of files made in parallel', wholeFrom(1), availableParallelism())
    .option('--notes <id>', `a text that comes with the set: ${notes.map(({ id }) => id).join(', ')}`, collect)
    .option('--player <language>', 'a player for arrays in source code: c, rust or python', collect)
    .option('--list <file>', 'a list file that the device has now: the set is added to it', collect)
    .option('--depfile <file>', 'write what each file depends on, as a rule for make and ninja')
    .option('--json', 'print JSON');

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSetOptions(withSource(withSheet(command.argument('<file...>', 'audio files, or folders of them'))))
    .option('--start <time>', 'start of the cut: 83.5, 1:23.5, or frames as 44100f', moment)
    .option('--end <time>', 'end of the cut', moment)
    .option('--set <station.key=value>', 'set a station by hand; see the command settings', collect, [])
    .option('--slots <file>', 'a table of what plays where: a number and a file in each line')
    .action(async (files: string[], options) =>
      exitWith(await make(output, files, { ...options, debug: isDebugging() })),
    );
