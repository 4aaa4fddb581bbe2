import { readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import {
  type ClipSettings,
  checkPlaces,
  checkSet,
  type Finding,
  folderOf,
  InputError,
  noteById,
  noteFiles,
  type OwnLists,
  placing,
  plannedFiles,
  setFiles,
  settingsOf,
  sheetForClip,
  sourceOf,
  type Target,
  worstOf,
} from '@tambur/core';
import { EXIT } from './exit.ts';
import { readText, removeFiles, writeBytes } from './files.ts';
import { showFindings } from './findings.ts';
import { eachFile, json, type Output } from './output.ts';
import { openMakers } from './pool.ts';
import type { FileOfClip, SetOptions, SetOrder } from './set-order.ts';
import { recordOf } from './set-record.ts';

/** A path as a rule of make has it: spaces, signs of comments and of variables are marked. */
const inRule = (path: string) => path.replace(/([\s#\\])/g, '\\$1').replaceAll('$', '$$$$');

/** "a b: c d": a rule as GNU make and ninja read it. */
export const depRule = (made: readonly string[], of: readonly string[]): string =>
  `${made.map(inRule).join(' ')}: ${of.map(inRule).join(' ')}\n`;

/** Lists of the device's own, each for the list of the sheet that is called so, or the only one. */
async function ownListsFrom({ lists, name }: Target, paths: readonly string[]): Promise<OwnLists> {
  const own = new Map<string, Uint8Array>();
  for (const path of paths) {
    const list =
      lists.find((entry) => basename(entry.path) === basename(path)) ?? (lists.length === 1 ? lists[0] : undefined);
    if (!list) {
      const there = lists.length ? `has ${lists.map((entry) => entry.path).join(', ')}` : 'has no list file';
      throw new InputError('bad-setting', `--list ${path}: ${name} ${there}; name the list so, or leave it out.`);
    }
    own.set(
      list.key,
      await readFile(path).catch(() =>
        Promise.reject(new InputError('cannot-read', `${path} cannot be read; name the device's list.`)),
      ),
    );
  }
  return own;
}

function say(output: Output, { source, file, sourceFacts, obstacles, ways, findings }: FileOfClip): void {
  for (const warning of sourceFacts.warnings) output.words(`${source}: ${warning}`);
  for (const text of obstacles) output.words(`${file}: ${text}`);
  for (const { label, set } of ways) output.words(`  ${label}: ${set.map((entry) => `--set ${entry}`).join(' ')}`);
  showFindings(output, file, findings, ['breaks', 'advises']);
}

/** Makes every file of a set, its lists and packs, and says what was found. Gives the exit code. */
export async function makeSet(output: Output, order: SetOrder, options: SetOptions): Promise<number> {
  const { job, sheet, sources, start, end } = order;
  const { out, jobs = 1, depfile, dependsOn, player = [] } = options;
  const notes = [...(options.notes ?? []), ...player.map((language) => `player-${language}`)];
  // What there is not is said before anything is made.
  for (const id of notes) noteById(id);
  const own = new Map([...(order.ownLists ?? []), ...(await ownListsFrom(sheet, options.list ?? []))]);
  const files = plannedFiles(job.clips, job.places, sheet).flatMap((file) => {
    const clip = job.clips[file.index];
    if (!clip) return [];
    const source = sources.get(sourceOf(clip));
    if (!source) {
      throw new InputError('damaged', `The job does not name the source of ${clip.name}; export it again.`);
    }
    return [{ ...file, clip, source }];
  });
  const folder = join(out, folderOf(sheet));
  const makers = await openMakers(files.length, jobs);
  const { results, trouble } = await eachFile(
    files,
    output,
    options,
    async ({ clip, source, slots, stem }): Promise<FileOfClip> => {
      const settings: ClipSettings = settingsOf(clip, job);
      const target = sheetForClip(sheet, clip.values, slots);
      const isOneOfMany = makers.count > 1;
      const task = { ...source, settings, start, end, target, stem, folder, isOneOfMany };
      return { ...(await makers.make(task)), clip, slots, source: source.path };
    },
    { count: makers.count, name: ({ source }) => source.path, say: (made) => say(output, made) },
  ).finally(() => makers.close());

  const listed = results.map((made) => ({ ...made, displayName: made.clip.name }));
  const beside = await setFiles(sheet, listed, ({ file }) => readText(file), own);
  const isPacked = beside.some(({ role }) => role === 'pack');
  // What stands in a pack has no file of its own.
  if (isPacked) await removeFiles(results.map(({ file }) => file));
  const written = isPacked ? [] : results.map(({ file }) => file);
  for (const { path, bytes } of beside) written.push(await writeBytes(join(out, path), bytes));
  const set: readonly Finding[] = [
    ...checkSet(sheet, {
      members: results.map(({ facts }) => facts),
      others: beside.map(({ path }) => basename(path)),
    }),
    ...checkPlaces(sheet, placing(job.clips, job.places, sheet).keys()),
  ];
  if (notes.length) {
    const record = await recordOf(order, { out, sounds: results, beside, findings: set });
    for (const { path, text } of noteFiles(record, notes)) {
      written.push(await writeBytes(join(out, path), new TextEncoder().encode(text)));
    }
  }
  if (depfile !== undefined) {
    const of = dependsOn ?? [...new Set(results.map(({ source }) => source))];
    await writeBytes(depfile, new TextEncoder().encode(depRule(written, of)));
  }
  showFindings(output, out, set, ['breaks', 'advises']);
  if (options.json) {
    output.data(
      json(
        results.map(({ source, file, clip, slots, facts, findings, ways }) => ({
          source,
          // What stands in a pack is there.
          file: isPacked ? join(out, beside.find(({ role }) => role === 'pack')?.path ?? '') : file,
          displayName: clip.name,
          slots,
          facts,
          findings: [...findings, ...set],
          ...(ways.length ? { ways } : {}),
        })),
      ),
    );
  } else for (const file of written) output.data(file);
  if (trouble !== null) return trouble;
  const worst = worstOf([...results.flatMap(({ findings }) => findings), ...set]);
  return worst === 'breaks' ? EXIT.broken : EXIT.met;
}
