import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  deviceOf,
  type Evidence,
  type Explained,
  explainFrom,
  type Facts,
  findSymptom,
  forOneFile,
  gather,
  InputError,
  insert,
  insteadOf,
  LONGEST_SOURCE,
  notKnown,
  type Ranked,
  symptoms,
  type Unproved,
  unprovedOf,
} from '@tambur/core';
import type { Command } from 'commander';
import { assignmentsOf } from '../assignments.ts';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { entryOf, givenCard, openForeign, soundOf } from '../given-card.ts';
import { type Format, json, type Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';

export interface ExplainOptions extends Format, SheetChoice {
  readonly symptom: string;
  readonly entry?: string;
  readonly before?: string;
  /** What the file was made of. */
  readonly source?: string;
  /** Folder for the small files that settle what the bytes do not tell. */
  readonly out?: string;
}

/** A cause as it is printed. */
const asData = ({ cause, strength, seen, mend }: Ranked) => ({
  cause: cause.id,
  title: cause.title,
  strength: Number(strength.toFixed(2)),
  seen,
  tellApart: cause.tellApart,
  mend: mend.words,
  set: mend.station === undefined || mend.wish === 'automatic' ? [] : assignmentsOf(mend.station, mend.wish),
  where: mend.where,
});

/** What the bytes do not tell, as it is printed. @param file where its small file is; null if none was asked for */
const unprovedAsData = ({ id, title, tellApart, mend }: Unproved, file: string | null) => ({
  cause: id,
  title,
  strength: null,
  seen: '',
  tellApart,
  mend: mend.words,
  set: [],
  where: mend.where,
  file,
});

/** Writes the small files, where a folder is named. */
async function withFiles(all: readonly Unproved[], out: string | undefined) {
  if (out !== undefined) await mkdir(out, { recursive: true });
  const data: ReturnType<typeof unprovedAsData>[] = [];
  for (const one of all) {
    const file = out === undefined ? null : join(out, one.fileName);
    if (file !== null) {
      const made = await one.make();
      await writeFile(file, made.read(0, made.size));
    }
    data.push(unprovedAsData(one, file));
  }
  return data;
}

/** What was said of each file, and the strongest of it. */
interface OfCard extends Explained {
  readonly entry: string;
  readonly evidence: Evidence;
}

export async function explainFile(output: Output, path: string, options: ExplainOptions): Promise<number> {
  const symptom = findSymptom(options.symptom);
  if (!symptom) {
    const known = symptoms.map(({ id }) => id);
    throw new InputError(
      'bad-setting',
      `There is no symptom "${options.symptom}"${insteadOf(options.symptom, known)}; --symptom list names them all.`,
    );
  }
  const target = await sheetOf(options);
  const { card, isWhole } = await givenCard(path);
  const before = options.before === undefined ? [] : (await givenCard(options.before)).card;
  const source = options.source === undefined ? {} : { source: await soundOf(options.source, LONGEST_SOURCE) };
  const device = deviceOf(target);
  // Once for all of its files.
  const inserted = await insert(card, isWhole ? device : forOneFile(device), openForeign, before);
  const listed = new Set(target.lists.map((list) => list.path));
  const sounds = card.filter((file) => !isWhole || !listed.has(file.path));
  const entries = sounds.map((file) => ({ path: file.path, name: file.path }));
  const paths = options.entry === undefined ? entries.map((entry) => entry.path) : [entryOf(options.entry, entries)];
  const found: OfCard[] = [];
  for (const [i, entry] of paths.entries()) {
    output.progress(i + 1, paths.length);
    const unknown = (facts: Facts) => notKnown(target, facts, entry, isWhole);
    const situation = { card, path: entry, device, isWhole, openForeign, inserted, notKnown: unknown, ...source };
    const evidence = await gather(situation);
    found.push({ entry, evidence, ...(await explainFrom(symptom.id, evidence)) });
  }
  output.progress(paths.length, paths.length);
  const [most] = found.toSorted((a, b) => (b.causes[0]?.strength ?? 0) - (a.causes[0]?.strength ?? 0));
  const { entry = '', causes = [], answer = '', atTheDevice = [] } = most ?? {};
  const unproved = await withFiles(most ? unprovedOf(symptom.id, most.evidence, target) : [], options.out);
  if (options.json) {
    output.data(json({ symptom: symptom.id, entry, causes: causes.map(asData), answer, atTheDevice, unproved }));
    return EXIT.met;
  }
  output.data(`${symptom.title}: ${entry}`);
  for (const ranked of causes) {
    const { cause, title, strength, seen, tellApart, mend, set } = asData(ranked);
    output.data(
      [
        `  ${title} (${cause}, ${Math.round(100 * strength)} %)`,
        `    ${seen}`,
        `    To tell it apart: ${tellApart}`,
        `    Mend: ${mend}${set.length ? `: ${set.map((one) => `--set ${one}`).join(' ')}` : ''}`,
      ].join('\n'),
    );
  }
  if (answer) output.data(`  ${answer}`);
  for (const step of atTheDevice) output.data(`  At the device: ${step}`);
  if (unproved.length) output.data('  What the bytes cannot prove, the most frequent first:');
  for (const { title, file, mend } of unproved) {
    output.data(`    ${title}${file === null ? '' : ` Carry ${file} to the device.`} If that sounds right: ${mend}.`);
  }
  if (unproved.length && options.out === undefined) output.data('    --out <folder> writes a small file for each.');
  return EXIT.met;
}

/** Every symptom, for whoever does not know its name. */
function listSymptoms(output: Output, asJson: boolean): number {
  output.data(asJson ? json(symptoms) : symptoms.map(({ id, title }) => `${id.padEnd(18)}  ${title}`).join('\n'));
  return EXIT.met;
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSheet(command.argument('[card]', 'a file, or a folder or a ZIP that stands for a card'), true)
    .requiredOption('--symptom <id>', 'what is heard or seen; "list" names them all')
    .option('--entry <path>', 'which file of the card')
    .option('--source <file>', 'the source of the file: it shows which rate is right for bare samples')
    .option('--before <card>', 'the card that was in the device before, without a restart in between')
    .option('--out <folder>', 'write a small file for each thing that the bytes cannot prove')
    .option('--json', 'print JSON')
    .action(async (path: string | undefined, options) => {
      if (options.symptom === 'list') return exitWith(listSymptoms(output, options.json === true));
      if (path === undefined || options.target === undefined) {
        throw new InputError('bad-setting', 'Name a file or a card, and its sheet with --target.');
      }
      exitWith(await explainFile(output, path, { ...options, debug: isDebugging() }));
    });
