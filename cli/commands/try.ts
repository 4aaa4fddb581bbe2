import {
  type Circumstances,
  deviceOf,
  formatCount,
  formatRate,
  formatSeconds,
  forOneFile,
  Gathered,
  headerlessReading,
  InputError,
  insert,
  leavesOpen,
  notKnown,
  type Playing,
  wavFile,
} from '@tambur/core';
import { type Command, Option } from 'commander';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { factsOf, writeBytes } from '../files.ts';
import { entryOf, givenCard, openForeign } from '../given-card.ts';
import { numberWithin } from '../numbers.ts';
import { type Format, json, type Output } from '../output.ts';
import { type SheetChoice, sheetOf, withSheet } from '../sheet-choice.ts';

export interface TryOptions extends Format, SheetChoice {
  readonly play?: string;
  readonly out?: string;
  /** A card that the device has seen before, and not been restarted since. */
  readonly before?: string;
  readonly velocity?: number;
  readonly semitones?: number;
  readonly letGo?: number;
  readonly byStrike?: Circumstances['byStrike'];
  readonly busy?: boolean;
  readonly quiet?: boolean;
}

/** What came out of the loudspeaker. */
interface Played {
  readonly entry: string;
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
  readonly seconds: number;
  /** Why nothing is heard. */
  readonly held: string | null;
  /** Where it was written. */
  readonly out: string | null;
}

/** Seconds that are written at most: they are in memory together. */
const LONGEST_WRITTEN = 1200;

/** @throws InputError if it is longer than can be written, or cannot be */
async function heardOf(entry: string, playing: Playing, out: string | undefined): Promise<Played> {
  const { sampleRate, channels, held } = playing;
  const gathered = new Gathered();
  let frames = 0;
  for await (const block of playing.heard()) {
    frames += block[0]?.length ?? 0;
    if (out === undefined) continue;
    if (frames > LONGEST_WRITTEN * sampleRate) {
      const most = formatSeconds(LONGEST_WRITTEN);
      throw new InputError('too-large', `${entry} is longer than ${most}; leave --out away, or play a shorter one.`);
    }
    gathered.add(block);
  }
  if (out !== undefined) {
    const heard = { sampleRate: Math.round(sampleRate), channels: gathered.channels(channels) };
    await writeBytes(out, wavFile(heard, 16));
  }
  return { entry, sampleRate, channels, frames, seconds: frames / sampleRate, held, out: out ?? null };
}

export async function tryOut(output: Output, path: string, options: TryOptions): Promise<number> {
  const target = await sheetOf(options);
  const { card, isWhole } = await givenCard(path);
  const before = options.before === undefined ? [] : (await givenCard(options.before)).card;
  const device = isWhole ? deviceOf(target) : forOneFile(deviceOf(target));
  const inserted = await insert(card, device, openForeign, before);
  let played: Played | null = null;
  if (options.play !== undefined) {
    const entries = inserted.shown.map(({ file, name }) => ({ path: file.path, name }));
    const entry = entryOf(options.play, entries);
    const { velocity = 1, semitones = 0, busy = false, quiet = false, letGo, byStrike = [] } = options;
    const now: Partial<Circumstances> = {
      ...{ velocity, semitones, isBusy: busy, isQuiet: quiet, byStrike },
      ...(letGo === undefined ? {} : { letGoAfter: letGo }),
    };
    played = await heardOf(entry, await inserted.play(entry, now), options.out);
  }
  const unknown: { readonly entry: string; readonly words: string }[] = [];
  const open = leavesOpen(target) ? inserted.shown : [];
  for (const [i, { file }] of open.entries()) {
    output.progress(i + 1, open.length);
    try {
      const facts = await factsOf(file.bytes, { reading: headerlessReading(target) });
      const said = notKnown(target, facts, file.path, isWhole);
      unknown.push(...said.map((words) => ({ entry: file.path, words })));
    } catch (error) {
      // What cannot be read says so when it is played.
      if (!(error instanceof InputError)) throw error;
    }
  }
  const shown = inserted.shown.map(({ file, name }) => ({ entry: file.path, name }));
  const refused = inserted.refused.map(({ path: entry, word, reason }) => ({ entry, word, reason }));
  const log = inserted.log.map(({ at, path: entry, words }) => ({ at: Number(at.toFixed(3)), entry, words }));
  if (options.json) {
    output.data(json({ shown, refused, notKnown: unknown, played, log }));
  } else {
    output.data(shown.length ? 'It shows' : 'It shows nothing');
    for (const { entry, name } of shown) output.data(`  ${name}${name === entry ? '' : `  (${entry})`}`);
    if (refused.length) output.data('It refuses');
    for (const { entry, word, reason } of refused) output.data(`  ${entry}: ${word}. ${reason}`);
    for (const { entry, words } of unknown) output.data(`${entry}: ${words}`);
    output.data('What happened');
    for (const { at, entry, words } of log) output.data(`  ${at.toFixed(3).padStart(8)} s  ${entry}: ${words}`);
    if (played) {
      const { entry, sampleRate, frames, seconds, held, out } = played;
      output.data(
        held === null
          ? `Played ${entry}: ${formatSeconds(seconds)}, ${formatCount(frames)} frames at ${formatRate(sampleRate)}${out === null ? '' : `, written to ${out}`}`
          : `${entry} is silent: ${held}`,
      );
    }
  }
  return EXIT.met;
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  withSheet(command.argument('<card>', 'a folder, a ZIP or a file'))
    .option('--play <entry>', 'play an entry: its path, its name, or its place in the list')
    .option('--out <file>', 'write what is heard into a WAV file')
    .option('--before <card>', 'the card that was in the device before, without a restart in between')
    .option('--velocity <share>', 'how hard it is struck, 0 to 1', numberWithin(0, 1))
    .option('--semitones <n>', 'semitones by which it is played higher', numberWithin(-48, 48))
    .option('--let-go <s>', 'seconds after which its pad or key is let go', numberWithin(0, 3600))
    .addOption(
      new Option('--by-strike <effects...>', 'what a strike changes, as the device is set').choices([
        'length',
        'pitch',
      ]),
    )
    .option('--busy', 'during a call, or while others talk')
    .option('--quiet', 'in its quiet mode')
    .option('--json', 'print JSON')
    .action(async (path: string, options) =>
      exitWith(await tryOut(output, path, { ...options, debug: isDebugging() })),
    );
