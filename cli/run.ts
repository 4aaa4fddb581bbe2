import { isatty } from 'node:tty';
import { Command, CommanderError } from 'commander';
import { commands } from './commands/list.ts';
import { EXIT } from './exit.ts';
import { processOutput } from './stream-output.ts';

// A thread does not know of its own streams whether somebody watches them.
const output = processOutput(isatty(2));

const program = new Command('tambur')
  .description('Turns audio into exactly the file that a stubborn device plays.')
  .exitOverride()
  .option('--debug', 'show where an internal error came from')
  .configureHelp({ showGlobalOptions: true });

let exitCode: number = EXIT.met;

const context = {
  output,
  isDebugging: () => program.opts<{ debug?: boolean }>().debug === true,
  exitWith: (code: number) => {
    exitCode = code;
  },
};

// Only what is called is loaded; of the others the help says what they are for.
const words = process.argv.slice(2);
for (const { name, description, load } of commands) {
  const command = program.command(name).description(description);
  if (words.includes(name)) (await load()).define(command, context);
  else command.allowUnknownOption().allowExcessArguments();
}

try {
  await program.parseAsync();
} catch (error) {
  // The parser has already said what is wrong; asking for help is not an error.
  if (error instanceof CommanderError) exitCode = error.exitCode === 0 ? EXIT.met : EXIT.unusable;
  else {
    const [{ InputError }, { sayFailure }] = await Promise.all([import('@tambur/core'), import('./output.ts')]);
    if (error instanceof InputError) {
      output.words(error.message);
      exitCode = EXIT.unusable;
    } else {
      sayFailure(output, 'This command ', error, context.isDebugging());
      exitCode = EXIT.failed;
    }
  }
}
process.exitCode = exitCode;
