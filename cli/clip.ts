import type { OpenOptions } from '@tambur/codecs';
import { library } from '@tambur/codecs';
import {
  type Chain,
  type ClipSettings,
  type Facts,
  type Finding,
  makeClip,
  makesSame,
  parseSettings,
  type RenderReport,
  readingOf,
  settle,
  type Target,
  type Way,
} from '@tambur/core';
import { assignmentsOf } from './assignments.ts';
import { madeIn, startBeside } from './beside.ts';
import { inFolder, type OpenSound, withSound } from './files.ts';
import { lively } from './life.ts';
import { frameOf, type Moment } from './numbers.ts';

/** One file that is to be made: plain data, so that a thread can be given it. */
export interface ClipTask {
  readonly path: string;
  readonly options: OpenOptions;
  readonly settings: ClipSettings;
  readonly start?: Moment | undefined;
  readonly end?: Moment | undefined;
  readonly target: Target;
  readonly stem: string;
  /** Where the file goes. */
  readonly folder: string;
  /** True if other files are made at the same time: a second thread would take the place of one of them. */
  readonly isOneOfMany: boolean;
}

/** What came of it. */
export interface ClipMade {
  readonly file: string;
  readonly fileName: string;
  readonly sourceFacts: Facts;
  readonly facts: Facts;
  readonly report: RenderReport;
  readonly findings: readonly Finding[];
  /** What stands in the way, one sentence each. */
  readonly obstacles: readonly string[];
  /** Ways out, as they are given to `--set`. */
  readonly ways: readonly { readonly label: string; readonly set: readonly string[] }[];
}

const wayOf = ({ label, station, wish }: Way) => ({ label, set: assignmentsOf(station, wish) });

function settingsOf({ settings, start, end }: ClipTask, { sampleRate }: Facts): ClipSettings {
  if (!start && !end) return settings;
  const cut = {
    ...(settings.cut === 'automatic' ? {} : settings.cut),
    ...(start && { start: frameOf(start, sampleRate) }),
    ...(end && { end: frameOf(end, sampleRate) }),
  };
  return parseSettings({ ...settings, cut });
}

/** Makes the file of a chain. */
const makeFile = (chain: Chain, sound: OpenSound, folder: string) =>
  inFolder(folder, chain.fileName, async (store) => ({
    chain,
    made: await makeClip(chain, sound.reader(chain.order.facts), lively, { store, library }),
  }));

/**
 * Makes a long sound's file of what its facts are likely to be, while a second thread measures its levels and reads the file
 * again. Null if the facts turn out otherwise, and another file is wanted, and where there are ways out to be tried, which
 * takes all facts; whatever goes wrong is left to the making that follows then.
 */
async function makeEarly(
  chainOf: (facts: Facts) => Chain,
  sound: OpenSound,
  folder: string,
): Promise<Awaited<ReturnType<typeof makeFile>> | null> {
  const { path, options, likely } = sound;
  if (!likely) return null;
  try {
    const early = chainOf(likely);
    if (early.obstacles.length) return null;
    return await inFolder(folder, early.fileName, async (store) => {
      const made = early.stations.wrap.plan.compressed ? null : madeIn(store, readingOf(early));
      const { facts, found, end } = startBeside({ path, options, likely, made });
      try {
        const readBeside = () => found;
        const clip = await makeClip(early, sound.reader(likely), lively, { store, library, readBeside });
        const chain = chainOf(await facts);
        if (!makesSame(early, chain)) throw new Error('the facts are not what was likely');
        return { chain, made: clip };
      } finally {
        await end();
      }
    });
  } catch {
    return null;
  }
}

/**
 * Makes one file, and nothing if that fails.
 * @throws InputError naming the source, where it cannot be used
 */
export function makeOne(task: ClipTask): Promise<ClipMade> {
  const { path, options, target, stem, folder, isOneOfMany } = task;
  const chainOf = (facts: Facts) => settle({ facts, settings: settingsOf(task, facts), target, stem });
  return withSound(path, options, async (sound) => {
    const early = isOneOfMany ? null : await makeEarly(chainOf, sound, folder);
    const { file, result } = early ?? (await makeFile(chainOf(await sound.facts()), sound, folder));
    const { chain, made } = result;
    return {
      file,
      fileName: chain.fileName,
      sourceFacts: chain.order.facts,
      facts: made.facts,
      report: made.report,
      findings: made.findings,
      obstacles: chain.obstacles.map(({ text }) => text),
      ways: chain.obstacles.flatMap((obstacle) => obstacle.ways).map(wayOf),
    };
  });
}
