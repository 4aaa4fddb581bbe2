import { askedBy, requirementText, targets, withVariant } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { type Format, json, type Output } from '../output.ts';

export function listTargets(output: Output, { json: asJson }: Format): number {
  if (asJson) output.data(json(targets.map((sheet) => ({ ...sheet, asked: askedBy(sheet) }))));
  else {
    for (const sheet of targets) {
      const { id, name, variants, blanks } = sheet;
      const asked = askedBy(sheet).map(requirementText);
      const lines = asked.map((text) => `    ${text}`);
      const editions = variants.map(({ id: variant }) => {
        const others = askedBy(withVariant(sheet, variant))
          .map(requirementText)
          .filter((text) => !asked.includes(text));
        return `    --variant ${variant}: ${others.join('; ')}`;
      });
      const questions = blanks.map(({ id: blank, usual, question }) => `    --value ${blank}=${usual}: ${question}`);
      output.data([id, `  ${name}`, ...lines, ...questions, ...editions].join('\n'));
    }
  }
  return EXIT.met;
}

export const define = (command: Command, { output, exitWith }: Context): Command =>
  command.option('--json', 'print JSON').action((options) => exitWith(listTargets(output, options)));
