import { VOICES } from '@tambur/codecs/speech';
import { InputError, stationIds } from '@tambur/core';
import { Command, CommanderError, InvalidArgumentError } from 'commander';
import {
  check,
  listTargets,
  make,
  type Output,
  sayFailure,
  showFacts,
  showReadings,
  showSheet,
  speakPrompts,
} from './commands.ts';
import { EXIT } from './exit.ts';

const output: Output = {
  data: (text) => process.stdout.write(`${text}\n`),
  words: (text) => process.stderr.write(`${text}\n`),
};

/** Seconds of a cut. */
function seconds(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < 0) {
    throw new InvalidArgumentError('give seconds, for example 1.25.');
  }
  return value;
}

/** Number of a sound in a file, or of bytes. */
const wholeFrom = (least: number) => (text: string) => {
  const value = Number(text);
  if (text.trim() === '' || !Number.isInteger(value) || value < least) {
    throw new InvalidArgumentError(`give a whole number of ${least} or more.`);
  }
  return value;
};

const AS = [
  '--as <reading>',
  'read the bytes as encoding,rate,channels[,skip[,bits]], for example mu-law,8000,1',
] as const;
const TRACK = ['--track <n>', 'which of several sounds in a file', wholeFrom(1)] as const;

const TARGET = ['--target <sheet>', 'target sheet: its id, or its file'] as const;
const VARIANT = ['--variant <id>', 'variant of the sheet, for example older-firmware'] as const;

const collect = (text: string, before: readonly string[]): readonly string[] => [...before, text];

const program = new Command('tambur')
  .description('Turns audio into exactly the file that a stubborn device plays.')
  .exitOverride()
  .option('--debug', 'show where an internal error came from')
  .configureHelp({ showGlobalOptions: true });

let exitCode: number = EXIT.met;

const isDebugging = (): boolean => program.opts<{ debug?: boolean }>().debug === true;
const withDebug = <T extends object>(options: T) => ({ ...options, debug: isDebugging() });

program
  .command('targets')
  .description('list the target sheets')
  .option('--json', 'as data')
  .action((options) => {
    exitCode = listTargets(output, options);
  });

program
  .command('sheet')
  .description('print a target sheet as a file, to be edited and given to --target')
  .requiredOption(...TARGET)
  .option(...VARIANT)
  .action(async (options) => {
    exitCode = await showSheet(output, options);
  });

program
  .command('facts')
  .description('say what files are, from their bytes')
  .argument('<file...>')
  .option(...AS)
  .option(...TRACK)
  .option('--json', 'as data')
  .action(async (files: string[], options) => {
    exitCode = await showFacts(output, files, withDebug(options));
  });

program
  .command('readings')
  .description('say what headerless files may be, likeliest first')
  .argument('<file...>')
  .option('--skip <bytes>', 'bytes at the start that are not sound', wholeFrom(0))
  .option('--json', 'as data')
  .action(async (files: string[], options) => {
    exitCode = await showReadings(output, files, withDebug(options));
  });

program
  .command('make')
  .description('make the files that a target plays; prints the paths that were written')
  .argument('<file...>')
  .requiredOption(...TARGET)
  .option(...VARIANT)
  .requiredOption('--out <dir>', 'folder to write into')
  .option(...AS)
  .option(...TRACK)
  .option('--start <s>', 'start of the cut in seconds', seconds)
  .option('--end <s>', 'end of the cut in seconds', seconds)
  .option('--set <station.key=value>', `set a station by hand (${stationIds.join(', ')})`, collect, [])
  .option('--json', 'as data')
  .action(async (files: string[], options) => {
    exitCode = await make(output, files, withDebug(options));
  });

program
  .command('check')
  .description('check files, or a folder or a ZIP that stands for a card, against a target')
  .argument('<file...>')
  .requiredOption(...TARGET)
  .option(...VARIANT)
  .option('--json', 'as data')
  .action(async (files: string[], options) => {
    exitCode = await check(output, files, withDebug(options));
  });

program
  .command('speak')
  .description(
    'speak prompts in English, each into a WAV file named after its words; prints the paths that were written',
  )
  .argument('<text...>')
  .requiredOption('--out <dir>', 'folder to write into')
  .option('--voice <id>', `one of: ${VOICES.map(({ id }) => id).join(', ')}`)
  .option('--speed <factor>', "1 is the voice's own", Number)
  .option('--pitch <factor>', "1 is the voice's own", Number)
  .option('--json', 'as data')
  .action(async (texts: string[], options) => {
    exitCode = await speakPrompts(output, texts, withDebug(options));
  });

try {
  await program.parseAsync();
} catch (error) {
  // The parser has already said what is wrong; asking for help is not an error.
  if (error instanceof CommanderError) exitCode = error.exitCode === 0 ? EXIT.met : EXIT.unusable;
  else if (error instanceof InputError) {
    output.words(error.message);
    exitCode = EXIT.unusable;
  } else {
    sayFailure(output, 'This command ', error, isDebugging());
    exitCode = EXIT.failed;
  }
}
process.exitCode = exitCode;
