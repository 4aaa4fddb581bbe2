import { basename } from 'node:path';
import { describeFacts, type Facts } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { factsOfFile } from '../files.ts';
import { eachFile, type Format, json, type Output } from '../output.ts';
import { openOptions, type Source, withSource } from '../source.ts';

function factLines(facts: Facts, name: string): string[] {
  const lines = describeFacts(facts, name);
  const width = Math.max(...lines.map(({ label }) => label.length));
  return lines.map(({ label, value }) => `  ${label.padEnd(width)}  ${value}`);
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

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSource(command.argument('<file...>'))
    .option('--json', 'print JSON')
    .action(async (files: string[], options) =>
      exitWith(await showFacts(output, files, { ...options, debug: isDebugging() })),
    );
