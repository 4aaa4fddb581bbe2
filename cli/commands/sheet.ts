import { sheetText } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import type { Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';

/** A sheet as a file of its own, to be changed and passed on. */
export async function showSheet(output: Output, choice: SheetChoice): Promise<number> {
  output.data(sheetText(await sheetOf(choice)).trimEnd());
  return EXIT.met;
}

export const define = (command: Command, { output, exitWith }: Context): Command =>
  withSheet(command).action(async (options) => exitWith(await showSheet(output, options)));
