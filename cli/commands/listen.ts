import {
  deviceOf,
  formatRate,
  formatSeconds,
  type ListeningReport,
  LONGEST_SOURCE,
  listen,
  MOST_SECONDS,
} from '@tambur/core';
import type { Command } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { givenCard, openForeign, soundOf } from '../given-card.ts';
import { type Format, json, type Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';

export interface ListenOptions extends Format, SheetChoice {
  /** What the file was made of. */
  readonly source?: string;
}

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** What a recording says, line by line. */
function wordsOf({ best, runnerUp, sampleRate, ...heard }: ListeningReport): readonly string[] {
  const { delay, missingAtStart = 0, missingAtEnd = 0, gap = null, rounds = 1, band, isClipped } = heard;
  return [
    `${best.title} (${best.hypothesis}, ${percent(best.confidence)})`,
    ...(runnerUp ? [`  Or else: ${runnerUp.title} (${runnerUp.hypothesis}, ${percent(runnerUp.confidence)})`] : []),
    ...(sampleRate === null ? [] : [`  It plays at ${formatRate(Math.round(sampleRate))}.`]),
    ...(delay === null ? [] : [`  The sound begins ${formatSeconds(delay)} into the recording.`]),
    ...(missingAtStart > 0 ? [`  ${formatSeconds(missingAtStart)} are missing at the start.`] : []),
    ...(missingAtEnd > 0 ? [`  ${formatSeconds(missingAtEnd)} are missing at the end.`] : []),
    ...(gap === null ? [] : [`  ${rounds} rounds, with ${formatSeconds(gap)} between them.`]),
    ...(band === null ? [] : [`  Heard from ${formatRate(band.low)} to ${formatRate(band.high)}.`]),
    ...(isClipped ? ['  The recording is overdriven: record it more softly to be sure.'] : []),
  ];
}

export async function listenTo(
  output: Output,
  path: string,
  recording: string,
  options: ListenOptions,
): Promise<number> {
  const target = await sheetOf(options);
  const { card } = await givenCard(path);
  const [file] = card;
  const source = options.source === undefined ? {} : { source: await soundOf(options.source, LONGEST_SOURCE) };
  const situation = { card, path: file?.path ?? '', device: deviceOf(target), isWhole: false, openForeign, ...source };
  const heard = await listen(situation, await soundOf(recording, MOST_SECONDS));
  output.data(options.json ? json(heard) : wordsOf(heard).join('\n'));
  return EXIT.met;
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSheet(command.argument('<file>', 'what was played').argument('<recording>', 'what was heard'))
    .option('--source <file>', 'the source of the file: it shows which rate is right for bare samples')
    .option('--json', 'print JSON')
    .action(async (file: string, recording: string, options) =>
      exitWith(await listenTo(output, file, recording, { ...options, debug: isDebugging() })),
    );
