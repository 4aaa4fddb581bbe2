import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { InputError, LARGEST_FILE, refuseTooLarge } from '@tambur/core';
import { Tinypool } from 'tinypool';
import { Source } from '../models/index.ts';
import { type DataFolder, publish } from '../storage/data-folder.ts';
import type { ImportOutcome } from './worker.ts';

/** A file name for people: without folders and control characters, and not endless. */
const shownName = (name: string): string => {
  const last = name.split(/[/\\]/).pop() ?? '';
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what has to go
  return last.replace(/[\u0000-\u001f\u007f]/g, '').slice(0, 200) || 'unnamed';
};

/**
 * Brings files in. A file is stored under its SHA-256, decoded once in a worker thread, and becomes a source only when
 * all of that is on the disk; whatever fails or is cut short leaves nothing behind.
 */
export class Importer {
  private readonly data: DataFolder;
  private readonly pool: Tinypool;
  private readonly limit: number;
  /** Imports under way by hash: the same bytes twice at once are one import. */
  private readonly underWay = new Map<string, Promise<Source>>();

  constructor(data: DataFolder, workerFile: string, limit = LARGEST_FILE) {
    this.data = data;
    this.limit = limit;
    this.pool = new Tinypool({ filename: workerFile, minThreads: 0, maxThreads: 2, idleTimeout: 30_000 });
  }

  /**
   * @param length what the sender says of its size, if anything
   * @throws InputError where the file cannot be used
   */
  async take(name: string, body: AsyncIterable<Uint8Array>, length?: number): Promise<Source> {
    refuseTooLarge(shownName(name), length ?? 0, this.limit);
    const upload = this.data.upload(randomUUID());
    const hash = createHash('sha256');
    try {
      const file = await open(upload, 'wx');
      try {
        let taken = 0;
        for await (const chunk of body) {
          taken += chunk.length;
          refuseTooLarge(shownName(name), taken, this.limit);
          hash.update(chunk);
          await file.write(chunk);
        }
        await file.sync();
      } finally {
        await file.close();
      }
      const sha256 = hash.digest('hex');
      return await (this.underWay.get(sha256) ?? this.begin(sha256, upload, shownName(name)));
    } finally {
      await rm(upload, { force: true });
    }
  }

  private begin(sha256: string, upload: string, name: string): Promise<Source> {
    const work = Source.findOne({ where: { sha256 } })
      .then((known) => known ?? this.store(sha256, upload, name))
      .finally(() => this.underWay.delete(sha256));
    this.underWay.set(sha256, work);
    return work;
  }

  private async store(sha256: string, upload: string, name: string): Promise<Source> {
    const unfinished = this.data.unfinishedSource(sha256);
    try {
      await rm(unfinished.folder, { recursive: true, force: true });
      await mkdir(unfinished.folder);
      await rename(upload, unfinished.original);
      const outcome: ImportOutcome = await this.pool.run(unfinished);
      if ('refused' in outcome) throw new InputError(outcome.refused.code, `${name}: ${outcome.refused.message}`);
      await publish(unfinished.folder, this.data.source(sha256).folder);
      return await Source.create({ id: randomUUID(), name, sha256, facts: outcome.facts });
    } catch (error) {
      await rm(unfinished.folder, { recursive: true, force: true });
      throw error;
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
