import { basename, parse } from 'node:path';
import {
  automaticSettings,
  type ClipSettings,
  checkFile,
  checkSet,
  containerTitle,
  encodingTitle,
  type Facts,
  type Finding,
  formatBitRate,
  formatBytes,
  formatChannels,
  formatCount,
  formatLength,
  formatLevel,
  formatRate,
  framesAt,
  headerlessReading,
  InputError,
  listFileText,
  makeClip,
  parseSettings,
  pcmReader,
  requirementText,
  stemsOf,
  targetOf,
  targets,
  worstOf,
} from '@tambur/core';
import { openFile, writeWhole } from './files.ts';

/** Data goes to stdout, words to stderr. */
export interface Output {
  data(text: string): void;
  words(text: string): void;
}

export interface Format {
  readonly json?: boolean;
}

/** Exit codes: all is met; something breaks the sheet; the input cannot be used. */
export const EXIT = { met: 0, broken: 1, unusable: 2 } as const;

const json = (value: unknown) => JSON.stringify(value, null, 2);

export function listTargets(output: Output, { json: asJson }: Format): number {
  if (asJson) output.data(json(targets));
  else {
    for (const { id, name, requirements } of targets) {
      output.data(`${id}\n  ${name}\n${requirements.map((entry) => `    ${requirementText(entry)}`).join('\n')}`);
    }
  }
  return EXIT.met;
}

/** Runs `use` on each file; a file that cannot be used is named and does not stop the rest. */
async function eachFile<T>(paths: readonly string[], output: Output, use: (path: string) => Promise<T>) {
  const results: T[] = [];
  let unusable = false;
  for (const path of paths) {
    try {
      results.push(await use(path));
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      output.words(error.message);
      unusable = true;
    }
  }
  return { results, unusable };
}

function factLines({ levels, ...facts }: Facts): string[] {
  const depth = facts.bitDepth ? `${facts.bitDepth} bit` : '';
  return [
    `container   ${containerTitle(facts.container)}`,
    `encoding    ${encodingTitle(facts.encoding)}`,
    `rate        ${formatRate(facts.sampleRate)}`,
    ...(depth ? [`depth       ${depth}`] : []),
    `channels    ${formatChannels(facts.channels)}`,
    `length      ${formatLength(facts.frames, facts.sampleRate)}`,
    `size        ${formatBytes(facts.bytes)}`,
    `data rate   ${formatBitRate(facts.bitRate)}${facts.bitRateMode === 'unknown' ? '' : `, ${facts.bitRateMode}`}`,
    `peak        ${formatLevel(Math.max(...levels.peak))}`,
    ...(levels.fullScaleFrames ? [`full scale  ${formatCount(levels.fullScaleFrames)} frames`] : []),
    ...facts.tags.map(({ name, value }) => `tag         ${name}: ${value}`),
    ...facts.extras.map(({ name, bytes }) => `beside      ${name}, ${formatBytes(bytes)}`),
    ...facts.warnings.map((warning) => `warning     ${warning}`),
  ];
}

export async function showFacts(output: Output, paths: readonly string[], { json: asJson }: Format): Promise<number> {
  const { results, unusable } = await eachFile(paths, output, async (file) => ({
    file,
    ...(await openFile(file)).facts,
  }));
  if (asJson) output.data(json(results));
  else {
    for (const { file, ...facts } of results) {
      output.data([file, ...factLines(facts).map((line) => `  ${line}`)].join('\n'));
    }
  }
  return unusable ? EXIT.unusable : EXIT.met;
}

function findingLine({ verdict, title, wanted, found, mend }: Finding): string {
  const line = `${verdict.padEnd(8)} ${title}: wanted ${wanted}, found ${found}`;
  return mend ? `${line}; mend: ${mend}` : line;
}

function showFindings(output: Output, file: string, findings: readonly Finding[], verdicts: readonly string[]) {
  const shown = findings.filter(({ verdict }) => verdicts.includes(verdict));
  if (shown.length) output.words([file, ...shown.map((finding) => `  ${findingLine(finding)}`)].join('\n'));
}

export interface CheckOptions extends Format {
  readonly target: string;
}

export async function check(output: Output, paths: readonly string[], options: CheckOptions): Promise<number> {
  const target = targetOf(options.target);
  const { results, unusable } = await eachFile(paths, output, async (file) => {
    const { facts } = await openFile(file, headerlessReading(target));
    return { file, facts, findings: checkFile(target, facts, basename(file)) };
  });
  const set = checkSet(
    target,
    results.map(({ facts }) => facts),
  );
  if (options.json) {
    // Requirements on the set stand with each file: they hold, or break, for all of them together.
    output.data(json(results.map(({ file, findings }) => ({ file, findings: [...findings, ...set] }))));
  } else {
    for (const { file, findings } of results) {
      output.data([file, ...findings.map((finding) => `  ${findingLine(finding)}`)].join('\n'));
    }
    if (results.length) for (const finding of set) output.data(findingLine(finding));
  }
  if (unusable) return EXIT.unusable;
  const worst = worstOf([...results.flatMap(({ findings }) => findings), ...set]);
  return worst === 'breaks' ? EXIT.broken : EXIT.met;
}

export interface MakeOptions extends Format {
  readonly target: string;
  readonly out: string;
  /** Seconds. */
  readonly start?: number;
  readonly end?: number;
  readonly set: readonly string[];
}

/** `--set rate.sampleRate=11025` as entries of the settings; numbers are read as such. */
export function readAssignments(assignments: readonly string[]): Record<string, Record<string, unknown>> {
  const wishes: Record<string, Record<string, unknown>> = {};
  for (const assignment of assignments) {
    const match = /^(\w+)\.(\w+)=(.*)$/s.exec(assignment);
    if (!match) {
      throw new InputError('bad-setting', `--set ${assignment} is no setting; write it as station.key=value.`);
    }
    const [, station = '', key = '', text = ''] = match;
    const value = text !== '' && Number.isFinite(Number(text)) ? Number(text) : text;
    wishes[station] = { ...wishes[station], [key]: value };
  }
  return wishes;
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
  return parseSettings({ version: 1, name, ...wishes });
}

export async function make(output: Output, paths: readonly string[], options: MakeOptions): Promise<number> {
  const target = targetOf(options.target);
  readAssignments(options.set);
  const names = paths.map((path) => parse(path).name.slice(0, 120) || 'clip');
  const stems = stemsOf(names, target.naming.separator);
  const { results, unusable } = await eachFile(paths, output, async (path) => {
    const index = paths.indexOf(path);
    const { facts, pcm } = await openFile(path);
    for (const warning of facts.warnings) output.words(`${path}: ${warning}`);
    const settings = settingsFor(names[index] ?? 'clip', facts, options);
    const made = await makeClip({ facts, reader: pcmReader(pcm) }, settings, target, { stem: stems[index] ?? 'clip' });
    const file = await writeWhole(options.out, made.fileName, made.bytes);
    for (const { text, ways } of made.chain.obstacles) {
      output.words(`${file}: ${text}${ways.length ? ` Ways out: ${ways.map(({ label }) => label).join('; ')}.` : ''}`);
    }
    if (made.report.clippedFrames) {
      output.words(
        `${file}: ${made.report.clippedFrames} frames exceed full scale and were flattened; lower the level.`,
      );
    }
    showFindings(output, file, made.findings, ['breaks', 'advises']);
    return { source: path, file, displayName: settings.name, facts: made.opened.facts, findings: made.findings };
  });

  const written = results.map(({ file }) => file);
  if (target.listFile && results.length) {
    const rows = results.map(({ file, displayName, facts }) => ({
      displayName,
      fileName: basename(file),
      frames: facts.frames,
      bytes: facts.bytes,
    }));
    const text = new TextEncoder().encode(listFileText(target.listFile, rows));
    written.push(await writeWhole(options.out, target.listFile.name, text));
  }
  const set = checkSet(
    target,
    results.map(({ facts }) => facts),
  );
  showFindings(output, options.out, set, ['breaks', 'advises']);
  if (options.json) {
    output.data(json(results.map(({ findings, ...entry }) => ({ ...entry, findings: [...findings, ...set] }))));
  } else for (const file of written) output.data(file);
  if (unusable) return EXIT.unusable;
  const worst = worstOf([...results.flatMap(({ findings }) => findings), ...set]);
  return worst === 'breaks' ? EXIT.broken : EXIT.met;
}
