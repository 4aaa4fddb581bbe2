import { checkCard, headerlessReading, shortened, worstOf } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { factsOf, givenFiles } from '../files.ts';
import { findingLine } from '../findings.ts';
import { eachFile, type Format, json, type Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';

export interface CheckOptions extends Format, SheetChoice {}

export async function check(output: Output, paths: readonly string[], options: CheckOptions): Promise<number> {
  const target = await sheetOf(options);
  let trouble: number | null = null;
  const given = await givenFiles(paths, async (each, use) => {
    const opened = await eachFile(each, output, options, use);
    trouble = opened.trouble;
    return opened.results;
  });
  const { length } = given.files;
  const { files, set } = await checkCard(target, given.files, {
    isWhole: given.isCard,
    read: ({ bytes }) => factsOf(bytes, { reading: headerlessReading(target) }),
    onRead: (count) => output.progress(count, length),
  });
  const named = files.map((file, i) => ({ ...file, path: given.files[i]?.shown ?? file.path }));
  for (const { path, refused } of named) {
    if (refused !== undefined) output.words(shortened(`${path}: ${refused}`));
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
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSheet(command.argument('<file...>'))
    .option('--json', 'print JSON')
    .action(async (files: string[], options) =>
      exitWith(await check(output, files, { ...options, debug: isDebugging() })),
    );
