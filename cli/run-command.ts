import { InputError } from '@tambur/core';
import type { CommandModule, Context } from './command.ts';
import { EXIT } from './exit.ts';
import { sayFailure } from './output.ts';
import { run } from './run.ts';

function failed(error: unknown, { output, isDebugging }: Context): number {
  if (error instanceof InputError) {
    output.words(error.message);
    return EXIT.unusable;
  }
  sayFailure(output, 'This command ', error, isDebugging());
  return EXIT.failed;
}

/** Runs a command: where each of the bundles begins. */
export const runCommand = (name: string, { define }: CommandModule): Promise<void> => run({ name, define, failed });
