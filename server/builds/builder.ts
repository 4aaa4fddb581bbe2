import { randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { constants } from 'node:fs';
import { copyFile, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import {
  type Artifact,
  checkPlaces,
  checkSet,
  type Facts,
  folderOf,
  InputError,
  type PlannedFile,
  partsIn,
  placing,
  plannedFiles,
  setFiles,
  settingsOf,
  sheetForClip,
  sourceOf,
} from '@tambur/core';
import { sha256Of, sha256OfFile } from '@tambur/disk';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Events } from '../answers/events.ts';
import type { AgainView } from '../answers/views.ts';
import { ArtifactRow, type Delivery, Source, writing } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { diskTrouble, flush, publish } from '../storage/disk.ts';
import { ownListsOf } from '../storage/own-lists.ts';
import { hashOf } from '../work/hash.ts';
import { Threads } from '../work/threads.ts';
import type { BuildOutcome, BuildTask } from './worker.ts';

type Record = Delivery['record'];

/** A sound that was built, the places that it plays at, and what lists say of it. */
interface BuiltFile extends Pick<PlannedFile, 'slots'> {
  readonly artifact: Artifact;
  readonly displayName: string;
  readonly facts: Facts;
}

interface RunningBuild {
  readonly stop: AbortController;
  /** Of each file, 0..1. */
  readonly progress: number[];
  readonly finished: Promise<void>;
}

/** Files of earlier deliveries that are copied at a time: a process may not open any number of files. */
const COPIES_AT_ONCE = 8;

/** Thrown where a clip cannot be built; its message is for the user. */
class BuildRefused extends Error {}

/**
 * Builds deliveries in worker threads. The files of one delivery are built side by side into an unfinished folder,
 * which gets its real name only when all are complete, read back and on the disk.
 */
export class Builder {
  private readonly data: DataFolder;
  private readonly sequelize: Sequelize;
  private readonly events: Events;
  private readonly log: Logger;
  private readonly threads: Threads<BuildTask, BuildOutcome>;
  private readonly copying = pLimit(COPIES_AT_ONCE);
  private readonly running = new Map<string, RunningBuild>();
  private closing = false;

  constructor(data: DataFolder, sequelize: Sequelize, events: Events, log: Logger, workerFile: string) {
    this.data = data;
    this.sequelize = sequelize;
    this.events = events;
    this.log = log;
    this.threads = new Threads(workerFile, { most: availableParallelism(), megabytes: 2048 });
  }

  /** How far each file of a build is, 0..1; null if none is under way. */
  progressOf(deliveryId: string): readonly number[] | null {
    return this.running.get(deliveryId)?.progress ?? null;
  }

  /** Starts building; returns at once. */
  start(delivery: Delivery): void {
    const stop = new AbortController();
    // Every file of the build listens.
    setMaxListeners(0, stop.signal);
    const progress = filesOf(delivery.record).map(() => 0);
    const finished = this.run(delivery, stop.signal, progress)
      .catch((error: unknown) =>
        this.log.error({ err: error, deliveryId: delivery.id }, 'a build could not be recorded'),
      )
      .finally(() => this.running.delete(delivery.id));
    this.running.set(delivery.id, { stop, progress, finished });
  }

  /** Ends a build and waits until it is gone; false if nothing is being built under that id. */
  async cancel(deliveryId: string): Promise<boolean> {
    const build = this.running.get(deliveryId);
    build?.stop.abort();
    await build?.finished;
    return build !== undefined;
  }

  /** Ends all work. Builds under way stay recorded as such and start again with the next server. */
  async close(): Promise<void> {
    this.closing = true;
    for (const { stop } of this.running.values()) stop.abort();
    await Promise.all([...this.running.values()].map(({ finished }) => finished));
    await this.threads.close();
  }

  private async run(delivery: Delivery, signal: AbortSignal, progress: number[]): Promise<void> {
    const { id, jobId } = delivery;
    const folder = this.data.unfinishedDelivery(id);
    try {
      await rm(this.data.delivery(id), { recursive: true, force: true });
      const { sheet, job } = delivery.record;
      const { built, failures } = await this.buildFiles(delivery, folder, signal, progress);
      if (built.length === 0) throw new BuildRefused(failures.join(' '));
      const artifacts = await this.withSetFiles(delivery.record, built, folder);
      await publish(folder, this.data.delivery(id));
      const members = built.map(({ facts }) => facts);
      const others = artifacts.filter(({ role }) => role !== 'sound').map(({ path }) => path);
      const places = placing(job.clips, job.places, sheet);
      const findings = [...checkSet(sheet, { members, others }), ...checkPlaces(sheet, places.keys())];
      const record = { ...delivery.record, findings };
      await writing(this.sequelize, async (transaction) => {
        const rows = artifacts.map((artifact, position) => ({ ...artifact, deliveryId: id, position }));
        await ArtifactRow.destroy({ where: { deliveryId: id }, transaction });
        await ArtifactRow.bulkCreate(rows, { transaction });
        const error = failures.length ? `Not built: ${failures.join(' ')}` : null;
        await delivery.update({ state: 'done', error, record }, { transaction });
      });
    } catch (error) {
      if (this.closing) return;
      await rm(folder, { recursive: true, force: true });
      await rm(this.data.delivery(id), { recursive: true, force: true });
      if (signal.aborted) await this.end(delivery, { state: 'cancelled' });
      else {
        const refused = error instanceof BuildRefused;
        if (!refused) this.log.error({ err: error, deliveryId: id }, 'a build failed');
        await this.end(delivery, { state: 'failed', error: refused ? error.message : reasonOf(error) });
      }
    }
    this.events.send({ type: 'built', deliveryId: id, jobId, state: delivery.state });
  }

  private end(delivery: Delivery, how: Pick<Delivery, 'state'> & { readonly error?: string }): Promise<Delivery> {
    return writing(this.sequelize, (transaction) => delivery.update(how, { transaction }));
  }

  /**
   * Builds the files of a finished delivery once more, from what it was made of, and says which have other bytes. Nothing of that is
   * kept.
   * @throws the signal's reason where it was cancelled
   */
  async buildAgain(delivery: Delivery, signal: AbortSignal): Promise<AgainView> {
    setMaxListeners(0, signal);
    // Whoever else builds it again has another folder.
    const folder = this.data.unfinishedDelivery(randomUUID());
    const { record } = delivery;
    try {
      const progress = filesOf(record).map(() => 0);
      const { built, failures } = await this.buildFiles(delivery, folder, signal, progress, { isAnew: true });
      const files = built.length > 0 ? await this.withSetFiles(record, built, folder) : [];
      const again = new Map(files.map(({ path, sha256 }) => [path, sha256]));
      const before = await ArtifactRow.findAll({ where: { deliveryId: delivery.id } });
      const different = before.filter(({ path, sha256 }) => again.get(path) !== sha256).map(({ path }) => path);
      return { total: before.length, different, failures: [...failures], madeBy: record.core };
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  /** A file that was made of the same before, copied into a build; null if there is none that still is what it was. */
  private async takenOver(madeOf: string, folder: string, clip: string, signal: AbortSignal): Promise<Artifact | null> {
    signal.throwIfAborted();
    for (const { deliveryId, path, role, bytes, sha256, parts } of await ArtifactRow.findAll({ where: { madeOf } })) {
      const [part] = parts;
      if (role !== 'sound' || !part) continue;
      const copy = join(folder, path);
      try {
        await copyFile(join(this.data.delivery(deliveryId), path), copy, constants.COPYFILE_FICLONE);
        if ((await sha256OfFile(copy)) === sha256) {
          await flush(copy);
          return { path, role, bytes, sha256, madeOf, parts: [{ ...part, clip }] };
        }
      } catch (error) {
        this.log.warn({ err: error, deliveryId, path }, 'a file of an earlier delivery could not be used again');
      }
      await rm(copy, { force: true });
    }
    return null;
  }

  /** Makes the files of all clips in a folder of their own. What was made of the same before is taken over, unless `isAnew`. */
  private async buildFiles(
    { id, jobId, record }: Delivery,
    folder: string,
    signal: AbortSignal,
    progress: number[],
    { isAnew = false } = {},
  ): Promise<{ readonly built: readonly BuiltFile[]; readonly failures: readonly string[] }> {
    const { job, sheet, core } = record;
    await rm(folder, { recursive: true, force: true });
    await mkdir(folder);
    await mkdir(join(folder, folderOf(sheet)), { recursive: true });
    const clips = new Map(job.clips.map((clip) => [clip.id, clip]));
    const files = filesOf(record).flatMap((file) => {
      const clip = clips.get(file.clip);
      return clip ? [{ ...file, clip }] : [];
    });
    let told = 0;
    const tell = () => {
      const now = Date.now();
      if (now - told < 100) return;
      told = now;
      this.events.send({ type: 'build', deliveryId: id, jobId, progress: mean(progress), rows: [...progress] });
    };
    const build = async ({ clip, stem, slots }: (typeof files)[number], index: number): Promise<BuiltFile> => {
      const source = await Source.findByPk(sourceOf(clip));
      if (!source) throw new BuildRefused(`${clip.name}: its source is no longer on the shelf; add it again.`);
      const settings = settingsOf(clip, job);
      const order = { settings, target: sheetForClip(sheet, clip.values, slots), stem };
      const { sha256: sourceHash, reading, track, facts: sourceFacts } = source;
      // What it is settled by comes from its facts, which another version may see otherwise.
      const made = { sha256: sourceHash, reading, track, facts: sourceFacts.version };
      const madeOf = hashOf({ core, order, source: made });
      const known = isAnew ? null : await this.copying(() => this.takenOver(madeOf, folder, clip.id, signal));
      if (known?.parts[0]) {
        progress[index] = 1;
        tell();
        return { artifact: known, displayName: clip.name, slots, facts: known.parts[0].facts };
      }
      const { port1, port2 } = new MessageChannel();
      port1.on('message', (done: number) => {
        progress[index] = done;
        tell();
      });
      const task: BuildTask = {
        order: { ...order, facts: source.facts },
        source: this.data.source(source.key),
        reading: source.reading,
        folder,
        beside: null,
        progress: port2,
      };
      try {
        const outcome = await this.threads.run(task, { signal, transferList: [port2] });
        if ('refused' in outcome) throw new BuildRefused(`${clip.name}: ${outcome.refused}`);
        progress[index] = 1;
        tell();
        const { path, bytes, sha256, facts, report, findings } = outcome;
        const part = { clip: clip.id, offset: 0, length: bytes, facts, report, findings: [...findings] };
        const artifact = { path, role: 'sound' as const, bytes, sha256, madeOf, parts: [part] };
        return { artifact, displayName: clip.name, slots, facts };
      } finally {
        port1.close();
      }
    };
    // All are waited for: no thread may write into a folder that is being removed, and one failure ends no other's work.
    const results = await Promise.allSettled(files.map(build));
    signal.throwIfAborted();
    const failures = results.flatMap((result, index) => {
      if (result.status === 'fulfilled') return [];
      if (result.reason instanceof BuildRefused) return [result.reason.message];
      this.log.error({ err: result.reason, deliveryId: id }, 'a file could not be built');
      return [`${files[index]?.clip.name}: ${reasonOf(result.reason)}`];
    });
    return { built: results.flatMap((result) => (result.status === 'fulfilled' ? [result.value] : [])), failures };
  }

  /** All files of a delivery: those of the clips, or one that holds them all, and the lists that the sheet asks for. */
  private async withSetFiles(
    { sheet, core, job }: Record,
    built: readonly BuiltFile[],
    folder: string,
  ): Promise<readonly Artifact[]> {
    const listed = built.map((entry) => ({ ...entry, fileName: basename(entry.artifact.path) }));
    const pathOf = (path: string) => join(folder, path);
    const beside = await setFiles(
      sheet,
      listed,
      ({ artifact }) => readFile(pathOf(artifact.path), 'utf8'),
      await ownListsOf(this.data, job.ownLists),
    );
    const isPacked = beside.some(({ role }) => role === 'pack');
    // What stands in a pack has no file of its own.
    if (isPacked) await Promise.all(built.map(({ artifact }) => rm(pathOf(artifact.path))));
    const { lists, packs } = sheet;
    const madeOf = hashOf({
      core,
      lists,
      packs,
      ownLists: job.ownLists,
      of: built.map(({ artifact, displayName, slots }) => [artifact.madeOf, displayName, slots]),
    });
    const artifacts: Artifact[] = isPacked ? [] : built.map(({ artifact }) => artifact);
    for (const file of beside) {
      const { path, role, bytes } = file;
      await mkdir(dirname(pathOf(path)), { recursive: true });
      await writeFile(pathOf(path), bytes, { flag: 'wx' });
      await flush(pathOf(path));
      const parts = partsIn(
        file,
        built.flatMap(({ artifact }) => artifact.parts),
      );
      artifacts.push({ path, role, bytes: bytes.length, sha256: sha256Of(bytes), madeOf, parts });
    }
    return artifacts;
  }
}

export const mean = (values: readonly number[]) =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

/** The files that a delivery is to have. */
export const filesOf = ({ job, sheet }: Pick<Record, 'job' | 'sheet'>): readonly PlannedFile[] =>
  plannedFiles(job.clips, job.places, sheet);

/** What a failed build says where the failure is not the user's to mend. */
function reasonOf(error: unknown): string {
  if (error instanceof InputError) return error.message;
  const trouble = diskTrouble(error);
  return trouble
    ? `The files could not be written into the data folder: ${trouble}; then build again.`
    : 'The build failed for a reason that is in the server log; build again, and report it if it stays.';
}
