import { basename, join, parse } from 'node:path';
import { library } from '@tambur/codecs';
import {
  automaticSettings,
  type Chain,
  type ClipSettings,
  checkSet,
  type Facts,
  folderOf,
  InputError,
  makeClip,
  makesSame,
  parseSettings,
  readingOf,
  setFiles,
  settle,
  stationIds,
  stemsOf,
  type Way,
  worstOf,
} from '@tambur/core';
import type { Command } from 'commander';
import { madeIn, startBeside } from '../beside.ts';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { inFolder, type OpenSound, readText, removeFiles, withSound, writeBytes } from '../files.ts';
import { showFindings } from '../findings.ts';
import { lively } from '../life.ts';
import { type Moment, moment } from '../numbers.ts';
import { eachFile, type Format, json, type Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';
import { openOptions, type Source, withSource } from '../source.ts';

export interface MakeOptions extends Format, Source, SheetChoice {
  readonly out: string;
  readonly start?: Moment;
  readonly end?: Moment;
  readonly set: readonly string[];
}

type Wishes = Record<string, Record<string, unknown>>;

const settingValue = (text: string): unknown =>
  text === 'true'
    ? true
    : text === 'false'
      ? false
      : text !== '' && Number.isFinite(Number(text))
        ? Number(text)
        : text;

/** `--set rate.sampleRate=11025`, `--set ends.fadeOut.ms=20` as entries of the settings; lists have commas. */
export function readAssignments(assignments: readonly string[]): Wishes {
  const wishes: Wishes = {};
  for (const assignment of assignments) {
    const match = /^(\w+(?:\.\w+)+)=(.*)$/s.exec(assignment);
    if (!match) {
      throw new InputError('bad-setting', `--set ${assignment} is not a setting; write it as station.key=value.`);
    }
    const [, place = '', text = ''] = match;
    const keys = place.split('.');
    const last = keys.pop() ?? '';
    let entry: Record<string, unknown> = wishes;
    for (const key of keys) {
      const inner = Object.hasOwn(entry, key) ? entry[key] : {};
      entry[key] = typeof inner === 'object' && inner !== null ? inner : {};
      entry = entry[key] as Record<string, unknown>;
    }
    entry[last] = last === 'weights' ? text.split(',').map(settingValue) : settingValue(text);
  }
  return wishes;
}

/** A way out of an obstacle, as it is given to `--set`. */
const wayOf = ({ label, station, wish }: Way) => ({ label, set: assignmentsOf(station, wish) });

/** A wish as `station.key=value` entries. */
function assignmentsOf(place: string, value: unknown): string[] {
  if (Array.isArray(value)) return [`${place}=${value.join(',')}`];
  if (typeof value === 'object' && value !== null) {
    return Object.entries(value).flatMap(([key, entry]) => assignmentsOf(`${place}.${key}`, entry));
  }
  return [`${place}=${value}`];
}

function settingsFor(name: string, facts: Facts, { start, end, set }: MakeOptions): ClipSettings {
  const wishes = readAssignments(set);
  const unknown = Object.keys(wishes).find((station) => !(station in automaticSettings(name)));
  if (unknown) {
    throw new InputError('bad-setting', `--set ${unknown}: there is no such station; see the help of make.`);
  }
  if (start || end) {
    wishes.cut = {
      ...wishes.cut,
      ...(start && { start: start(facts.sampleRate) }),
      ...(end && { end: end(facts.sampleRate) }),
    };
  }
  return parseSettings({ name, ...wishes });
}

/** Makes the file of a chain. */
const makeFile = (chain: Chain, sound: OpenSound, folder: string) =>
  inFolder(folder, chain.fileName, async (store) => ({
    chain,
    made: await makeClip(chain, sound.reader(chain.order.facts), lively, { store, library }),
  }));

/**
 * Makes a long sound's file of what its facts are likely to be, while a second thread measures its levels and reads the file
 * again. Null where the facts turn out otherwise, and another file is wanted, and where there are ways out to be tried, which
 * takes all facts; whatever goes wrong is left to the making that follows then.
 */
async function makeEarly(
  chainOf: (facts: Facts) => Chain,
  sound: OpenSound,
  folder: string,
): Promise<Awaited<ReturnType<typeof makeFile>> | null> {
  const { path, options, likely } = sound;
  if (!likely) return null;
  try {
    const early = chainOf(likely);
    if (early.obstacles.length) return null;
    return await inFolder(folder, early.fileName, async (store) => {
      const made = early.stations.wrap.plan.compressed ? null : madeIn(store, readingOf(early));
      const { facts, found, end } = startBeside({ path, options, likely, made });
      try {
        const readBeside = () => found;
        const clip = await makeClip(early, sound.reader(likely), lively, { store, library, readBeside });
        const chain = chainOf(await facts);
        if (!makesSame(early, chain)) throw new Error('the facts are not what was likely');
        return { chain, made: clip };
      } finally {
        await end();
      }
    });
  } catch {
    return null;
  }
}

export async function make(output: Output, paths: readonly string[], options: MakeOptions): Promise<number> {
  const target = await sheetOf(options);
  const folder = folderOf(target);
  readAssignments(options.set);
  const source = openOptions(options);
  const names = paths.map((path) => parse(path).name.slice(0, 120) || 'clip');
  const stems = stemsOf(names, target);
  const { results, trouble } = await eachFile(paths, output, options, async (path) => {
    const index = paths.indexOf(path);
    const chainOf = (facts: Facts) => {
      const settings = settingsFor(names[index] ?? 'clip', facts, options);
      return settle({ facts, settings, target, stem: stems[index] ?? 'clip' });
    };
    return withSound(path, source, async (sound) => {
      const into = join(options.out, folder);
      const early = await makeEarly(chainOf, sound, into);
      const { file, result } = early ?? (await makeFile(chainOf(await sound.facts()), sound, into));
      const { chain, made } = result;
      for (const warning of chain.order.facts.warnings) output.words(`${path}: ${warning}`);
      const ways = chain.obstacles.flatMap((obstacle) => obstacle.ways).map(wayOf);
      for (const { text } of chain.obstacles) output.words(`${file}: ${text}`);
      for (const { label, set } of ways) output.words(`  ${label}: ${set.map((entry) => `--set ${entry}`).join(' ')}`);
      showFindings(output, file, made.findings, ['breaks', 'advises']);
      return {
        source: path,
        file,
        displayName: chain.order.settings.name,
        facts: made.facts,
        findings: made.findings,
        ...(ways.length ? { ways } : {}),
      };
    });
  });

  const listed = results.map(({ file, displayName, facts }) => ({
    displayName,
    fileName: basename(file),
    facts,
    file,
  }));
  const beside = await setFiles(target, listed, ({ file }) => readText(file));
  const isPacked = beside.some(({ role }) => role === 'pack');
  const written = isPacked ? [] : results.map(({ file }) => file);
  // What stands in a pack has no file of its own.
  if (isPacked) await removeFiles(results.map(({ file }) => file));
  for (const { path, bytes } of beside) written.push(await writeBytes(options.out, path, bytes));
  const set = checkSet(target, { members: results.map(({ facts }) => facts), others: beside.map(({ path }) => path) });
  showFindings(output, options.out, set, ['breaks', 'advises']);
  if (options.json) {
    output.data(json(results.map(({ findings, ...entry }) => ({ ...entry, findings: [...findings, ...set] }))));
  } else for (const file of written) output.data(file);
  if (trouble !== null) return trouble;
  const worst = worstOf([...results.flatMap(({ findings }) => findings), ...set]);
  return worst === 'breaks' ? EXIT.broken : EXIT.met;
}

const collect = (text: string, before: readonly string[]): readonly string[] => [...before, text];

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSource(withSheet(command.argument('<file...>')).requiredOption('--out <dir>', 'folder to write into'))
    .option('--start <time>', 'start of the cut: 83.5, 1:23.5, or frames as 44100f', moment)
    .option('--end <time>', 'end of the cut', moment)
    .option('--set <station.key=value>', `set a station by hand (${stationIds.join(', ')})`, collect, [])
    .option('--json', 'as data')
    .action(async (files: string[], options) =>
      exitWith(await make(output, files, { ...options, debug: isDebugging() })),
    );
