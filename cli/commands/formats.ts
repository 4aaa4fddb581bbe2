import { libraryFormats } from '@tambur/codecs/formats';
import { containers, outContainers } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { type Format, json, type Output } from '../output.ts';

/** What is read and written, from the lists that reading and writing go by. */
function listFormats(output: Output, { json: asJson }: Format): number {
  const reads = [...containers, ...libraryFormats].map(({ title }) => title);
  const writes = outContainers().map(({ id, title, extensions, carries }) => ({ id, title, extensions, carries }));
  if (asJson) output.data(json({ reads, writes }));
  else {
    output.data(['reads', ...reads.map((title) => `  ${title}`), 'writes'].join('\n'));
    for (const { id, title, extensions, carries } of writes) {
      output.data([`  ${title}, ${id} (.${extensions.join(', .')})`, `    ${carries.join(', ')}`].join('\n'));
    }
  }
  return EXIT.met;
}

export const define = (command: Command, { output, exitWith }: Context): Command =>
  command.option('--json', 'print JSON').action((options) => exitWith(listFormats(output, options)));
