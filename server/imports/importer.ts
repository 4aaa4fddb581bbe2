import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { link, mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { MessageChannel } from 'node:worker_threads';
import {
  FACTS_VERSION,
  type Facts,
  InputError,
  LARGEST_FILE,
  oneLine,
  type Reading,
  refuseTooLarge,
} from '@tambur/core';
import { sha256Of } from '@tambur/disk';
import type { Sequelize } from 'sequelize';
import { Source, writing } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { publish, refuseWhatWillNotFit, writeAll } from '../storage/disk.ts';
import { renewRecord, writeRecord } from '../storage/source-record.ts';
import { Once } from '../work/once.ts';
import { Threads } from '../work/threads.ts';
import type { ImportOutcome, ImportProgress, ImportTask } from './worker.ts';

/** A file name for people: without folders and control characters, and not endless. */
export const shownName = (name: string): string => {
  const last = name.split(/[/\\]/).pop() ?? '';
  return oneLine(last.replace(/\p{Cc}/gu, '').slice(0, 200)) || 'unnamed';
};

/** What the user says of a file, and how its import is followed and ended. */
export interface ImportOptions {
  /** What the sender says of its size. */
  readonly length?: number | undefined;
  /** What headerless bytes are. */
  readonly reading?: Reading | undefined;
  /** Which of several sounds, from 0. */
  readonly track?: number | undefined;
  readonly signal?: AbortSignal | undefined;
  readonly onProgress?: ((progress: ImportProgress) => void) | undefined;
}

/** A decoder that gives no sign of life for so long has lost its way in a damaged file. */
const STALLED_MS = 60_000;

/** ms that a decoder may take in all: so many, and more for each byte of the file and each frame that came out of it. */
const allowedMs = (bytes: number, frames: number): number => STALLED_MS + bytes / 50 + frames / 40;

/** Decoding is done in two threads, whose own memory stays small whatever the file's length. */
const THREADS = { most: 2, megabytes: 1024 };

/** Name of a source's folder: its hash, with a short hash of how it is read where that is not the plain way. */
function keyOf(sha256: string, { reading, track = 0 }: ImportOptions): string {
  if (!reading && track === 0) return sha256;
  const how = JSON.stringify([
    track,
    reading?.encoding,
    reading?.sampleRate,
    reading?.channels,
    reading?.skip ?? 0,
    reading?.bits,
  ]);
  return `${sha256}-${sha256Of(how).slice(0, 16)}`;
}

/** Facts of an older version as ones of this version, with nothing said of what was not measured then. */
const asFarAsKnown = (facts: Facts, problem: string): Facts => ({
  ...facts,
  version: FACTS_VERSION,
  layout: facts.layout ?? null,
  jointStereo: facts.jointStereo ?? null,
  tracks: facts.tracks ?? [],
  track: facts.track ?? 0,
  warnings: [
    ...facts.warnings,
    `These facts come from an older version of Tambur; the file could not be read again. ${problem}`,
  ],
  measures: {
    truePeak: Math.max(...facts.levels.peak),
    loudness: null,
    loudestTerm: null,
    loudnessRange: null,
    leadingSilence: 0,
    trailingSilence: 0,
    usedBits: null,
    bandwidth: null,
    energyAbove: null,
    // An older version has not measured all of it.
    ...(facts.measures as Partial<Facts['measures']> | undefined),
  },
});

/**
 * Brings files in. A file is stored under its SHA-256, decoded once in a worker thread, and becomes a source only when
 * all of that is on the disk; whatever fails, is cancelled or is cut short leaves nothing behind.
 */
export class Importer {
  private readonly data: DataFolder;
  private readonly sequelize: Sequelize;
  private readonly threads: Threads<ImportTask, ImportOutcome>;
  private readonly limit: number;
  /** Imports under way by key: the same bytes twice at once are one import. */
  private readonly underWay = new Once<Source>();

  constructor(data: DataFolder, sequelize: Sequelize, workerFile: string, limit = LARGEST_FILE, growth?: number) {
    this.data = data;
    this.sequelize = sequelize;
    this.limit = limit;
    this.threads = new Threads(workerFile, { ...THREADS, ...(growth === undefined ? {} : { growth }) });
  }

  /**
   * Takes a file's bytes as they come.
   * @throws InputError if the file cannot be used; the signal's reason where it was cancelled
   */
  take(name: string, body: AsyncIterable<Uint8Array>, options: ImportOptions = {}): Promise<Source> {
    return this.received(name, body, options, (upload, sha256) =>
      this.once(sha256, shownName(name), options, (to) => rename(upload, to)),
    );
  }

  /**
   * What a file is; nothing of it is kept.
   * @throws as `take` does
   */
  inspectFile(name: string, body: AsyncIterable<Uint8Array>, options: ImportOptions = {}): Promise<Facts> {
    const key = `inspect-${randomUUID()}`;
    return this.received(name, body, options, async (upload) => {
      try {
        return (await this.decode(key, shownName(name), options, (to) => rename(upload, to))).facts;
      } finally {
        await rm(this.data.unfinishedSource(key).folder, { recursive: true, force: true });
      }
    });
  }

  /** Takes a file's bytes as they come into an upload, which is gone when `use` is done with it. */
  async received<T>(
    name: string,
    body: AsyncIterable<Uint8Array>,
    options: ImportOptions,
    use: (upload: string, sha256: string) => Promise<T>,
  ): Promise<T> {
    refuseTooLarge(shownName(name), options.length ?? 0, this.limit);
    await refuseWhatWillNotFit(this.data.root, options.length ?? 0, shownName(name));
    const upload = this.data.upload(randomUUID());
    const hash = createHash('sha256');
    try {
      const file = await open(upload, 'wx');
      try {
        let taken = 0;
        for await (const chunk of body) {
          taken += chunk.length;
          refuseTooLarge(shownName(name), taken, this.limit);
          await writeAll(file, chunk);
          hash.update(chunk);
        }
        options.signal?.throwIfAborted();
        await file.sync();
        const { size } = await file.stat();
        if (size !== taken) throw new Error(`${taken} bytes were received, but ${size} are on the disk`);
      } finally {
        await file.close();
      }
      return await use(upload, hash.digest('hex'));
    } finally {
      await rm(upload, { force: true });
    }
  }

  /** The same bytes as those of a source, read in another way: another of its sounds, or as headerless. */
  again({ sha256, key, name }: Source, options: ImportOptions): Promise<Source> {
    return this.once(sha256, name, options, (to) => link(this.data.source(key).original, to));
  }

  /**
   * Reads sources of an older version again, so that their facts say what is said today. Gives a sentence on what was done.
   * One that cannot be read any more keeps what is known of it, with a warning.
   */
  async renewFacts(): Promise<string[]> {
    const old = (await Source.findAll()).filter(({ facts }) => facts.version !== FACTS_VERSION);
    for (const source of old) {
      const { key, name, reading, track } = source;
      const options = { reading: reading ?? undefined, track };
      const [made, there] = [this.data.unfinishedSource(key), this.data.source(key)];
      try {
        const { facts, waveform } = await this.decode(key, name, options, (to) => link(there.original, to));
        // One by one, so that the source is there whenever a sudden end comes; its old version makes it be done again.
        if (existsSync(made.sound)) await rename(made.sound, there.sound);
        else await rm(there.sound, { force: true });
        await rename(made.peaks, there.peaks);
        await writing(this.sequelize, (transaction) => source.update({ facts, waveform }, { transaction }));
        await renewRecord(this.data, source);
      } catch (error) {
        const isGone = !existsSync(there.original);
        if (!isGone && !(error instanceof InputError)) throw error;
        const problem = isGone ? 'It is gone from the data folder.' : (error as InputError).message;
        const facts = asFarAsKnown(source.facts, problem);
        await writing(this.sequelize, (transaction) => source.update({ facts }, { transaction }));
        if (!isGone) await renewRecord(this.data, source);
      } finally {
        await rm(made.folder, { recursive: true, force: true });
      }
    }
    return old.length ? [`Read ${old.length} of the sources again, to update their facts.`] : [];
  }

  private once(
    sha256: string,
    name: string,
    options: ImportOptions,
    bring: (to: string) => Promise<void>,
  ): Promise<Source> {
    const key = keyOf(sha256, options);
    return this.underWay.run(key, () => this.knownOrNew(sha256, key, name, options, bring));
  }

  private async knownOrNew(
    sha256: string,
    key: string,
    name: string,
    options: ImportOptions,
    bring: (to: string) => Promise<void>,
  ): Promise<Source> {
    const known = await Source.findOne({ where: { key } });
    if (known) {
      if (!known.deletedAt) return known;
      return writing(this.sequelize, (transaction) => known.update({ deletedAt: null, name }, { transaction }));
    }
    const unfinished = this.data.unfinishedSource(key);
    const finished = this.data.source(key).folder;
    try {
      const { facts, waveform } = await this.decode(key, name, options, bring);
      const { reading = null, track = 0 } = options;
      const source = { id: randomUUID(), name, sha256, key, reading, track, waveform, facts, createdAt: new Date() };
      await writeRecord(unfinished, source);
      await publish(unfinished.folder, finished);
      try {
        return await writing(this.sequelize, (transaction) => Source.create(source, { transaction }));
      } catch (error) {
        // Nothing is on the disk that the database does not know.
        await rename(finished, unfinished.folder);
        throw error;
      }
    } catch (error) {
      await rm(unfinished.folder, { recursive: true, force: true });
      throw error;
    }
  }

  /** Brings the bytes into the unfinished folder and decodes them there. */
  private async decode(
    key: string,
    name: string,
    { reading, track = 0, signal, onProgress }: ImportOptions,
    bring: (to: string) => Promise<void>,
  ): Promise<Exclude<ImportOutcome, { refused: unknown }>> {
    const files = this.data.unfinishedSource(key);
    await rm(files.folder, { recursive: true, force: true });
    await mkdir(files.folder);
    await bring(files.original);
    const { port1, port2 } = new MessageChannel();
    const ended = new AbortController();
    const stall = () => {
      const what = 'The file is damaged in a way that stops its decoder; get a complete copy of it.';
      ended.abort(new InputError('damaged', `${name}: ${what}`));
    };
    const { size } = await stat(files.original);
    let watch: NodeJS.Timeout | undefined;
    let begun = performance.now();
    const isAlive = () => {
      clearTimeout(watch);
      watch = setTimeout(stall, STALLED_MS);
    };
    port1.on('message', (progress: ImportProgress) => {
      isAlive();
      if (performance.now() - begun > allowedMs(size, progress.frames)) stall();
      onProgress?.(progress);
    });
    const task: ImportTask = { files, reading: reading ?? null, track, progress: port2 };
    const signals = signal ? [signal, ended.signal] : [ended.signal];
    let refused: Extract<ImportOutcome, { refused: unknown }>['refused'];
    try {
      const outcome = await this.threads.run(task, {
        signal: AbortSignal.any(signals),
        transferList: [port2],
        begun: () => {
          begun = performance.now();
          isAlive();
        },
      });
      if (!('refused' in outcome)) return outcome;
      refused = outcome.refused;
    } catch (error) {
      // A thread that took too much memory does not know the name of the file.
      throw error instanceof InputError && error.code === 'too-large'
        ? new InputError('too-large', `${name}: ${error.message}`)
        : error;
    } finally {
      clearTimeout(watch);
      port1.close();
    }
    throw new InputError(refused.code, `${name}: ${refused.message}`);
  }

  async close(): Promise<void> {
    await this.threads.close();
  }
}
