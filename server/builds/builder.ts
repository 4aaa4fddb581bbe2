import { createHash } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { basename, join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { checkSet, folderOf, InputError, jointOf, listFileText, listRows, stemsOf } from '@tambur/core';
import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Events } from '../events.ts';
import { DeliveredFile, type Delivery, type DeliveryOrder, Source, writing } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { diskTrouble, flush, publish } from '../storage/disk.ts';
import { Threads } from '../threads.ts';
import type { BuildOutcome, BuildTask } from './worker.ts';

type NewFile = Omit<DeliveredFile['_creationAttributes'], 'id' | 'deliveryId' | 'position'> & {
  /** Number of its clip in the order. */
  readonly index?: number;
};

interface RunningBuild {
  readonly stop: AbortController;
  /** Of each file, 0..1. */
  readonly progress: number[];
  readonly finished: Promise<void>;
}

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
  private readonly running = new Map<string, RunningBuild>();
  private closing = false;

  constructor(data: DataFolder, sequelize: Sequelize, events: Events, log: Logger, workerFile: string) {
    this.data = data;
    this.sequelize = sequelize;
    this.events = events;
    this.log = log;
    this.threads = new Threads(workerFile, { most: availableParallelism(), megabytes: 2048 });
  }

  /** How far a delivery's build is, 0..1; null where it is not being built. */
  progressOf(deliveryId: string): number | null {
    const build = this.running.get(deliveryId);
    return build ? mean(build.progress) : null;
  }

  /** Starts building; returns at once. */
  start(delivery: Delivery): void {
    const stop = new AbortController();
    // Every file of the build listens.
    setMaxListeners(0, stop.signal);
    const progress = delivery.order.clips.map(() => 0);
    const finished = this.run(delivery, stop.signal, progress)
      .catch((error: unknown) =>
        this.log.error({ err: error, deliveryId: delivery.id }, 'a build could not be recorded'),
      )
      .finally(() => this.running.delete(delivery.id));
    this.running.set(delivery.id, { stop, progress, finished });
  }

  /** Ends a build and waits until it is gone; false where nothing is being built under that id. */
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
      await rm(folder, { recursive: true, force: true });
      await rm(this.data.delivery(id), { recursive: true, force: true });
      await mkdir(folder);
      await mkdir(join(folder, folderOf(delivery.order.target)), { recursive: true });
      const { files, failures } = await this.buildFiles(delivery, folder, signal, progress);
      if (files.length === 0) throw new BuildRefused(failures.join(' '));
      const members = files.flatMap(({ facts }) => facts ?? []);
      const { listFile } = delivery.order.target;
      const delivered = await withListFile(delivery.order, files, folder);
      await publish(folder, this.data.delivery(id));
      await writing(this.sequelize, async (transaction) => {
        const rows = delivered.map(({ index: _, ...file }, position) => ({ ...file, deliveryId: id, position }));
        await DeliveredFile.destroy({ where: { deliveryId: id }, transaction });
        await DeliveredFile.bulkCreate(rows, { transaction });
        const others = listFile ? [listFile.name] : [];
        const setFindings = checkSet(delivery.order.target, { members, others });
        const error = failures.length ? `Not built: ${failures.join(' ')}` : null;
        await delivery.update({ state: 'done', error, setFindings }, { transaction });
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

  private async buildFiles(
    { id, jobId, order }: Delivery,
    folder: string,
    signal: AbortSignal,
    progress: number[],
  ): Promise<{ readonly files: readonly NewFile[]; readonly failures: readonly string[] }> {
    const stems = stemsOf(
      order.clips.map(({ settings }) => settings.name),
      order.target,
    );
    let told = 0;
    const tell = () => {
      const now = Date.now();
      if (now - told < 100) return;
      told = now;
      this.events.send({ type: 'build', deliveryId: id, jobId, progress: mean(progress) });
    };
    const build = async (clip: DeliveryOrder['clips'][number], index: number): Promise<NewFile> => {
      const source = await Source.findByPk(clip.sourceId);
      if (!source) throw new BuildRefused(`${clip.settings.name}: its source is no longer on the shelf; add it again.`);
      const { port1, port2 } = new MessageChannel();
      port1.on('message', (done: number) => {
        progress[index] = done;
        tell();
      });
      const task: BuildTask = {
        order: { facts: source.facts, settings: clip.settings, target: order.target, stem: stems[index] ?? 'clip' },
        soundFile: this.data.source(source.key).sound,
        folder,
        progress: port2,
      };
      try {
        const outcome = await this.threads.run(task, { signal, transferList: [port2] });
        if ('refused' in outcome) throw new BuildRefused(`${clip.settings.name}: ${outcome.refused}`);
        progress[index] = 1;
        tell();
        return { ...outcome, displayName: clip.settings.name, index };
      } finally {
        port1.close();
      }
    };
    // All are waited for: no thread may write into a folder that is being removed, and one failure ends no other's work.
    const results = await Promise.allSettled(order.clips.map(build));
    signal.throwIfAborted();
    const failures = results.flatMap((result, index) => {
      if (result.status === 'fulfilled') return [];
      if (result.reason instanceof BuildRefused) return [result.reason.message];
      this.log.error({ err: result.reason, deliveryId: id }, 'a file could not be built');
      return [`${order.clips[index]?.settings.name}: ${reasonOf(result.reason)}`];
    });
    return { files: results.flatMap((result) => (result.status === 'fulfilled' ? [result.value] : [])), failures };
  }
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

/** All files of a delivery: those of the clips and the list file that the sheet asks for, or one that holds them all. */
async function withListFile(
  { target }: DeliveryOrder,
  files: readonly NewFile[],
  folder: string,
): Promise<readonly NewFile[]> {
  const { listFile } = target;
  if (!listFile) return files;
  const listed = files.flatMap(({ name, displayName, facts, index }) =>
    facts
      ? [
          {
            path: join(folder, name),
            fileName: basename(name),
            displayName,
            facts,
            ...(index === undefined ? {} : { index }),
          },
        ]
      : [],
  );
  const joint = jointOf(target, listed);
  const contents = joint === null ? [] : await Promise.all(listed.map(({ path }) => readFile(path, 'utf8')));
  const sounds = joint === null ? null : { contents, joint };
  const text = Buffer.from(listFileText(listFile, listRows(target, listed), sounds));
  if (sounds) await Promise.all(listed.map(({ path }) => rm(path)));
  const path = join(folder, listFile.name);
  await writeFile(path, text, { flag: 'wx' });
  await flush(path);
  const row: NewFile = {
    name: listFile.name,
    displayName: sounds ? 'All sounds' : 'List file',
    bytes: text.length,
    sha256: createHash('sha256').update(text).digest('hex'),
    facts: null,
    report: null,
    findings: sounds
      ? files.flatMap(({ displayName, findings }) =>
          findings.map((finding) => ({ ...finding, title: `${displayName}: ${finding.title}` })),
        )
      : [],
  };
  return sounds ? [row] : [...files, row];
}

/** What a failed build says where the failure is not the user's to mend. */
function reasonOf(error: unknown): string {
  if (error instanceof InputError) return error.message;
  const trouble = diskTrouble(error);
  return trouble
    ? `The files could not be written into the data folder: ${trouble}; then build again.`
    : 'The build failed for a reason that is in the server log; build again, and report it if it stays.';
}
