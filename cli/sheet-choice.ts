import {
  firmwareQuestion,
  InputError,
  readSheet,
  type Target,
  targetOf,
  type Values,
  variantForFirmware,
  withUsual,
  withVariant,
} from '@tambur/core';
import type { Command } from 'commander';
import { readText } from './files.ts';

/** What names a sheet on the command line. */
export interface SheetChoice {
  /** An id, or a sheet's file. */
  readonly target: string;
  readonly variant?: string;
  /** Number of the device's firmware: it chooses the variant. */
  readonly firmware?: string;
  /** `tempo=93`: what the sheet's blanks are filled with. */
  readonly value?: readonly string[];
}

/** True for what is a file's name rather than an id. */
const isPath = (text: string) => /[./\\]/.test(text);

function readValues(assignments: readonly string[]): Values {
  return Object.fromEntries(
    assignments.map((assignment) => {
      const at = assignment.indexOf('=');
      if (at < 1) {
        throw new InputError(
          'bad-setting',
          `--value ${assignment} is not a value; write it as blank=value, for example tempo=93.`,
        );
      }
      const text = assignment.slice(at + 1).trim();
      const isNumber = text !== '' && Number.isFinite(Number(text));
      return [assignment.slice(0, at).trim(), isNumber ? Number(text) : text];
    }),
  );
}

/** @throws InputError if the sheet does not go by that, or it is no number */
function forFirmware(sheet: Target, firmware: string): string | null {
  if (firmwareQuestion(sheet) !== 'number') {
    const what = `${sheet.name} names no firmware by its number`;
    throw new InputError('bad-setting', `${what}; leave --firmware out, or choose a variant with --variant.`);
  }
  const found = variantForFirmware(sheet, firmware);
  if (found) return found.variant;
  throw new InputError('bad-setting', `--firmware ${firmware} is no number of a firmware; write it as 2.1.`);
}

/** @throws InputError if there is no such sheet, variant or blank, or its file is damaged */
export async function sheetOf({ target, variant, firmware, value = [] }: SheetChoice): Promise<Target> {
  // An id may have its variant behind it: loop-player:older.
  const [id = '', behind] = isPath(target) ? [target] : target.split(':');
  const sheet = isPath(target) ? readSheet(await readText(target), target) : targetOf(id);
  const chosen = variant ?? behind ?? (firmware === undefined ? null : forFirmware(sheet, firmware));
  return withUsual(withVariant(sheet, chosen), readValues(value));
}

/** Takes an option that may be given several times. */
export const collect = (text: string, before: readonly string[] = []): readonly string[] => [...before, text];

/** A command that is about a sheet asks for it, its variant and what its blanks are filled with. */
const TARGET = ['--target <sheet>', 'target sheet: its id, or its file'] as const;
export const withSheet = (command: Command, isOptional = false): Command =>
  (isOptional ? command.option(...TARGET) : command.requiredOption(...TARGET))
    .option('--variant <id>', 'variant of the sheet, for example older-firmware')
    .option('--firmware <number>', 'number of the firmware, for sheets whose variants go by it')
    .option('--value <blank=value>', 'fill a blank of the sheet, for example tempo=93', collect);
