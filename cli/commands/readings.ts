import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { readingsOfFile } from '../files.ts';
import { wholeFrom } from '../numbers.ts';
import { eachFile, type Format, json, type Output } from '../output.ts';

const MOST_READINGS = 6;

/** What headerless files may be, each as it is given to `--as`, the likeliest first. */
export async function showReadings(
  output: Output,
  paths: readonly string[],
  { json: asJson, debug, skip = 0 }: Format & { readonly skip?: number },
): Promise<number> {
  const { results, trouble } = await eachFile(paths, output, { debug }, async (file) => ({
    file,
    readings: readingsOfFile(file, skip),
  }));
  if (asJson) output.data(json(results));
  else {
    for (const { file, readings } of results) {
      const lines = readings.slice(0, MOST_READINGS).map(({ reading, why }) => {
        const { encoding, sampleRate, channels } = reading;
        return `  ${[encoding, sampleRate, channels, ...(skip ? [skip] : [])].join(',').padEnd(24)}  ${why}`;
      });
      output.data([file, ...lines].join('\n'));
    }
  }
  return trouble ?? EXIT.met;
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  command
    .argument('<file...>')
    .option('--skip <bytes>', 'bytes at the start that are not sound', wholeFrom(0))
    .option('--json', 'print JSON')
    .action(async (files: string[], options) =>
      exitWith(await showReadings(output, files, { ...options, debug: isDebugging() })),
    );
