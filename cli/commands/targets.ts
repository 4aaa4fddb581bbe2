import { requirementText, targets } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { type Format, json, type Output } from '../output.ts';

export function listTargets(output: Output, { json: asJson }: Format): number {
  if (asJson) output.data(json(targets));
  else {
    for (const { id, name, requirements, variants, blanks } of targets) {
      const lines = requirements.map((entry) => `    ${requirementText(entry)}`);
      const editions = variants.map(
        ({ id: variant, replace }) =>
          `    --variant ${variant}: ${(replace.requirements ?? []).map(requirementText).join('; ')}`,
      );
      const questions = blanks.map(({ id: blank, usual, question }) => `    --value ${blank}=${usual}: ${question}`);
      output.data([id, `  ${name}`, ...lines, ...questions, ...editions].join('\n'));
    }
  }
  return EXIT.met;
}

export const define = (command: Command, { output, exitWith }: Context): Command =>
  command.option('--json', 'print JSON').action((options) => exitWith(listTargets(output, options)));
