import { basename, join, parse } from 'node:path';
import { library, type OpenOptions } from '@tambur/codecs';
import { synthesiser } from '@tambur/codecs/node';
import { type Manner, nameOfPrompt, promptSchema, promptsOf, speak, USUAL_MANNER } from '@tambur/codecs/speech';
import {
  automaticSettings,
  blockEncodings,
  type ClipSettings,
  checkCard,
  checkSet,
  describeFacts,
  encodings,
  type Facts,
  type Finding,
  findEncoding,
  folderOf,
  framesAt,
  headerlessReading,
  InputError,
  makeClip,
  messageOf,
  oneLine,
  parseSettings,
  type Reading,
  readSheet,
  requirementText,
  setFiles,
  settle,
  sheetText,
  shortened,
  stemsOf,
  type Target,
  targetOf,
  targets,
  type Way,
  withVariant,
  worstOf,
} from '@tambur/core';
import * as v from 'valibot';
import { EXIT } from './exit.ts';
import {
  factsOf,
  factsOfFile,
  givenFiles,
  inFolder,
  readingsOfFile,
  readText,
  removeFiles,
  withSound,
  writeBytes,
} from './files.ts';
import { lively } from './life.ts';

/** Data goes to stdout, words to stderr. */
export interface Output {
  data(text: string): void;
  words(text: string): void;
}

export interface Format {
  readonly json?: boolean;
  /** Shows where a mistake of the program came from. */
  readonly debug?: boolean | undefined;
}

/** What a mistake of the program itself says: one sentence, and where it came from only for those who ask. */
export function sayFailure(output: Output, what: string, error: unknown, debug = false): void {
  const words = messageOf(error);
  output.words(
    `${what}failed in a way that Tambur did not foresee (${shortened(oneLine(words), 300)}); please report it.`,
  );
  if (debug && error instanceof Error) output.words(error.stack ?? '');
}

const json = (value: unknown) => JSON.stringify(value, null, 2);

/** What names a sheet on the command line. */
export interface SheetChoice {
  /** An id, or a sheet's file. */
  readonly target: string;
  readonly variant?: string;
}

/** True for what is a file's name rather than an id. */
const isPath = (text: string) => /[./\\]/.test(text);

/** @throws InputError where there is no such sheet or variant, or its file is damaged */
async function sheetOf({ target, variant }: SheetChoice): Promise<Target> {
  const sheet = isPath(target) ? readSheet(await readText(target), target) : targetOf(target);
  return withVariant(sheet, variant ?? null);
}

/** A sheet as a file of its own, to be changed and passed on. */
export async function showSheet(output: Output, choice: SheetChoice): Promise<number> {
  output.data(sheetText(await sheetOf(choice)).trimEnd());
  return EXIT.met;
}

export function listTargets(output: Output, { json: asJson }: Format): number {
  if (asJson) output.data(json(targets));
  else {
    for (const { id, name, requirements, variants } of targets) {
      const lines = requirements.map((entry) => `    ${requirementText(entry)}`);
      const editions = variants.map(
        ({ id: variant, replace }) =>
          `    --variant ${variant}: ${(replace.requirements ?? []).map(requirementText).join('; ')}`,
      );
      output.data([id, `  ${name}`, ...lines, ...editions].join('\n'));
    }
  }
  return EXIT.met;
}

/** Runs `use` on each file; a file that cannot be used is named and does not stop the rest. */
async function eachFile<T>(
  paths: readonly string[],
  output: Output,
  { debug }: Format,
  use: (path: string) => Promise<T>,
): Promise<{ readonly results: readonly T[]; readonly trouble: number | null }> {
  const results: T[] = [];
  /** The gravest exit code so far. */
  let trouble: number | null = null;
  for (const path of paths) {
    try {
      results.push(await use(path));
    } catch (error) {
      const isInput = error instanceof InputError;
      if (isInput) output.words(shortened(oneLine(error.message)));
      else sayFailure(output, `${path}: `, error, debug);
      trouble = Math.max(trouble ?? 0, isInput ? EXIT.unusable : EXIT.failed);
    }
  }
  return { results, trouble };
}

function factLines(facts: Facts, name: string): string[] {
  const lines = describeFacts(facts, name);
  const width = Math.max(...lines.map(({ label }) => label.length));
  return lines.map(({ label, value }) => `  ${label.padEnd(width)}  ${value}`);
}

/** What the user says of files that do not say it themselves. */
export interface Source {
  /** `mu-law,8000,1`: what the bytes are, whatever they look like. */
  readonly as?: string;
  /** Which of several sounds, from 1. */
  readonly track?: number;
}

/** `encoding,rate,channels` and, where wanted, `,skip` and `,bits`. */
export function readReading(text: string): Reading {
  const [encoding = '', ...figures] = text.split(',').map((part) => part.trim());
  const [sampleRate, channels = 1, skip = 0, bits] = figures.map(Number);
  const isWhole = (value: number, least: number) => Number.isInteger(value) && value >= least;
  if (
    !findEncoding(encoding) ||
    sampleRate === undefined ||
    !(sampleRate > 0) ||
    !isWhole(channels, 1) ||
    !isWhole(skip, 0) ||
    (bits !== undefined && !isWhole(bits, 1))
  ) {
    const known = [...encodings, ...blockEncodings].map(({ id }) => id).join(', ');
    throw new InputError(
      'bad-setting',
      `--as ${shortened(text, 80)} is not a reading; write encoding,rate,channels[,skip[,bits]], the encoding being one of: ${known}, or PCM of 1 to 32 bits in any layout, for example pcm-s12le-left or pcm-u5-packed.`,
    );
  }
  return { encoding, sampleRate, channels, skip, bits };
}

const openOptions = ({ as, track }: Source): OpenOptions => ({
  readAs: as === undefined ? undefined : readReading(as),
  track: track === undefined ? undefined : track - 1,
});

const MOST_READINGS = 6;

/** What headerless files may be, each as it is given to `--as`, the likeliest first. */
export async function showReadings(
  output: Output,
  paths: readonly string[],
  { json: asJson, debug, skip = 0 }: Format & { readonly skip?: number },
): Promise<number> {
  const { results, trouble } = await eachFile(paths, output, { debug }, async (file) => ({
    file,
    readings: readingsOfFile(file, skip),
  }));
  if (asJson) output.data(json(results));
  else {
    for (const { file, readings } of results) {
      const lines = readings.slice(0, MOST_READINGS).map(({ reading, why }) => {
        const { encoding, sampleRate, channels } = reading;
        return `  ${[encoding, sampleRate, channels, ...(skip ? [skip] : [])].join(',').padEnd(24)}  ${why}`;
      });
      output.data([file, ...lines].join('\n'));
    }
  }
  return trouble ?? EXIT.met;
}

export async function showFacts(
  output: Output,
  paths: readonly string[],
  { json: asJson, debug, ...source }: Format & Source,
): Promise<number> {
  const options = openOptions(source);
  const { results, trouble } = await eachFile(paths, output, { debug }, async (file) => ({
    file,
    ...(await factsOfFile(file, options)),
  }));
  if (asJson) output.data(json(results));
  else {
    for (const { file, ...facts } of results) {
      output.data([file, ...factLines(facts, basename(file))].join('\n'));
    }
  }
  return trouble ?? EXIT.met;
}

function findingLine({ verdict, title, wanted, found, mend }: Finding): string {
  const line = `${verdict.padEnd(8)} ${title}: wanted ${wanted}, found ${found}`;
  return mend ? `${line}; mend: ${mend}` : line;
}

function showFindings(output: Output, file: string, findings: readonly Finding[], verdicts: readonly string[]) {
  const shown = findings.filter(({ verdict }) => verdicts.includes(verdict));
  if (shown.length) output.words([file, ...shown.map((finding) => `  ${findingLine(finding)}`)].join('\n'));
}

export interface CheckOptions extends Format, SheetChoice {}

export async function check(output: Output, paths: readonly string[], options: CheckOptions): Promise<number> {
  const target = await sheetOf(options);
  let trouble: number | null = null;
  const given = await givenFiles(paths, async (each, use) => {
    const opened = await eachFile(each, output, options, use);
    trouble = opened.trouble;
    return opened.results;
  });
  try {
    const { files, set } = await checkCard(target, given.files, {
      isWhole: given.isCard,
      read: ({ bytes }) => factsOf(bytes, { reading: headerlessReading(target) }),
    });
    const named = files.map((file, i) => ({ ...file, path: given.files[i]?.shown ?? file.path }));
    for (const { path, refused } of named) {
      if (refused !== undefined) output.words(shortened(oneLine(`${path}: ${refused}`)));
    }
    const answered = named.filter(({ role, refused }) => role !== 'other' && refused === undefined);
    if (options.json) {
      // Requirements on the set stand with each file: they hold, or break, for all of them together.
      output.data(
        json(answered.map(({ path, role, findings }) => ({ file: path, role, findings: [...findings, ...set] }))),
      );
    } else {
      for (const { path, findings } of answered) {
        output.data([path, ...findings.map((finding) => `  ${findingLine(finding)}`)].join('\n'));
      }
      if (answered.length) for (const finding of set) output.data(findingLine(finding));
    }
    if (trouble !== null) return trouble;
    if (named.some(({ refused }) => refused !== undefined)) return EXIT.unusable;
    const worst = worstOf([...answered.flatMap(({ findings }) => findings), ...set]);
    return worst === 'breaks' ? EXIT.broken : EXIT.met;
  } finally {
    given.close();
  }
}

export interface SpeakOptions extends Format, Partial<Manner> {
  readonly out: string;
}

/** Speaks prompts, each into a WAV file that is named after its words. */
export async function speakPrompts(
  output: Output,
  texts: readonly string[],
  { out, json: asJson, debug, voice, speed, pitch }: SpeakOptions,
): Promise<number> {
  const manner = Object.entries({ voice, speed, pitch }).filter(([, value]) => value !== undefined);
  const { results, trouble } = await eachFile(texts.flatMap(promptsOf), output, { debug }, async (text) => {
    const prompt = v.safeParse(promptSchema, { ...USUAL_MANNER, ...Object.fromEntries(manner), text });
    if (!prompt.success) {
      const [{ path, message }] = prompt.issues;
      const what = path?.map(({ key }) => String(key)).join('.') ?? 'prompt';
      throw new InputError('bad-setting', `${shortened(text, 40)}: ${what}: ${message}; choose another value.`);
    }
    const wav = await speak(prompt.output, await synthesiser());
    return { text, file: await writeBytes(out, nameOfPrompt(text), wav) };
  });
  if (asJson) output.data(json(results));
  else for (const { file } of results) output.data(file);
  return trouble ?? EXIT.met;
}

export interface MakeOptions extends Format, Source, SheetChoice {
  readonly out: string;
  /** Seconds. */
  readonly start?: number;
  readonly end?: number;
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
  if (start !== undefined || end !== undefined) {
    wishes.cut = {
      ...wishes.cut,
      ...(start !== undefined && { start: framesAt(start, facts.sampleRate) }),
      ...(end !== undefined && { end: framesAt(end, facts.sampleRate) }),
    };
  }
  return parseSettings({ name, ...wishes });
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
    return withSound(path, source, async (facts, reader) => {
      for (const warning of facts.warnings) output.words(`${path}: ${warning}`);
      const settings = settingsFor(names[index] ?? 'clip', facts, options);
      const chain = settle({ facts, settings, target, stem: stems[index] ?? 'clip' });
      const { file, result: made } = await inFolder(join(options.out, folder), chain.fileName, (store) =>
        makeClip(chain, reader, lively, { store, library }),
      );
      const ways = chain.obstacles.flatMap((obstacle) => obstacle.ways).map(wayOf);
      for (const { text } of chain.obstacles) output.words(`${file}: ${text}`);
      for (const { label, set } of ways) output.words(`  ${label}: ${set.map((entry) => `--set ${entry}`).join(' ')}`);
      showFindings(output, file, made.findings, ['breaks', 'advises']);
      return {
        source: path,
        file,
        displayName: settings.name,
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
