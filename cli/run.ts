import { isatty } from 'node:tty';
import { CORE_VERSION } from '@tambur/core';
import { Command, CommanderError } from 'commander';
import type { CommandModule, Context } from './command.ts';
import { EXIT } from './exit.ts';
import { commands } from './list.ts';
import { processOutput } from './stream-output.ts';

/** The command that is called, and what is done where it fails. */
interface Called extends CommandModule {
  readonly name: string;
  /** Says why it failed, and answers with the exit code. */
  failed(error: unknown, context: Context): number;
}

/** Reads the arguments and does what they say; without a command there is help. Sets the exit code. */
export async function run(called?: Called): Promise<void> {
  const program = new Command('tambur')
    .description('Turns audio into exactly the file that a stubborn device plays.')
    .version(CORE_VERSION, '--version', 'print the version')
    .exitOverride()
    .option('--debug', 'show where an internal error came from')
    .configureHelp({ showGlobalOptions: true });

  let exitCode: number = EXIT.met;
  const context: Context = {
    // A thread does not know of its own streams whether somebody watches them.
    output: processOutput(isatty(2)),
    isDebugging: () => program.opts<{ debug?: boolean }>().debug === true,
    exitWith: (code: number) => {
      exitCode = code;
    },
  };

  // Of the others the help says what they are for.
  for (const { name, description } of commands) {
    const command = program.command(name).description(description);
    if (name === called?.name) called.define(command, context);
    else command.allowUnknownOption().allowExcessArguments();
  }

  try {
    await program.parseAsync();
  } catch (error) {
    // The parser has already said what is wrong; asking for help is not an error.
    if (error instanceof CommanderError) exitCode = error.exitCode === 0 ? EXIT.met : EXIT.unusable;
    else if (called) exitCode = called.failed(error, context);
    else throw error;
  }
  process.exitCode = exitCode;
}
