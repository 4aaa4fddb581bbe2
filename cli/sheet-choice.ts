import { readSheet, type Target, targetOf, withVariant } from '@tambur/core';
import type { Command } from 'commander';
import { readText } from './files.ts';

/** What names a sheet on the command line. */
export interface SheetChoice {
  /** An id, or a sheet's file. */
  readonly target: string;
  readonly variant?: string;
}

/** True for what is a file's name rather than an id. */
const isPath = (text: string) => /[./\\]/.test(text);

/** @throws InputError where there is no such sheet or variant, or its file is damaged */
export async function sheetOf({ target, variant }: SheetChoice): Promise<Target> {
  const sheet = isPath(target) ? readSheet(await readText(target), target) : targetOf(target);
  return withVariant(sheet, variant ?? null);
}

/** A command that is about a sheet asks for it and its variant. */
export const withSheet = (command: Command): Command =>
  command
    .requiredOption('--target <sheet>', 'target sheet: its id, or its file')
    .option('--variant <id>', 'variant of the sheet, for example older-firmware');
