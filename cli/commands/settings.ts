import { InputError, insteadOf, schemaEntries, stationIds, stations } from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { type Format, json, type Output } from '../output.ts';

/** What `--set` takes, for all stations or one of them. */
export function listSettings(output: Output, station: string | undefined, { json: asJson }: Format): number {
  if (station !== undefined && !stationIds.some((id) => id === station)) {
    throw new InputError('bad-setting', `There is no station "${station}"${insteadOf(station, stationIds)}.`);
  }
  const entries = stationIds
    .filter((id) => station === undefined || id === station)
    .flatMap((id) =>
      schemaEntries(stations[id].wish).map(({ path, words }) => ({ setting: [id, ...path].join('.'), takes: words })),
    );
  if (asJson) output.data(json(entries));
  else {
    const width = Math.max(...entries.map(({ setting }) => setting.length));
    for (const { setting, takes } of entries) output.data(`${setting.padEnd(width)}  ${takes}`);
  }
  return EXIT.met;
}

export const define = (command: Command, { output, exitWith }: Context): Command =>
  command
    .argument('[station]')
    .option('--json', 'print JSON')
    .action((station: string | undefined, options) => exitWith(listSettings(output, station, options)));
