import { randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join, relative, sep } from 'node:path';
import { Readable } from 'node:stream';
import { filesBelow, ZipFile } from '@tambur/codecs/node';
import { InputError } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import { type DataFolder, isUnfinished } from '../storage/data-folder.ts';
import { copyDatabase, databaseTrouble } from '../storage/database.ts';
import { flush, writeAll } from '../storage/disk.ts';

/** One file of a backup. */
export interface BackupEntry {
  readonly path: string;
  readonly bytes: number;
  open(): ReadableStream<Uint8Array>;
}

async function entryOf(path: string, file: string): Promise<BackupEntry> {
  const { size } = await stat(file);
  return { path, bytes: size, open: () => Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array> };
}

/** A backup that can be read until it is closed. */
export interface Backup {
  readonly entries: readonly BackupEntry[];
  close(): Promise<void>;
}

/**
 * The whole data folder as it is now, as the entries of a ZIP: a copy of the database, then all that it speaks of. It can be made
 * while everything goes on: what is added meanwhile is not in it, and nothing of what it speaks of changes.
 */
export async function wholeBackup(data: DataFolder, sequelize: Sequelize): Promise<Backup> {
  // A copy of its own: those in `backups/` are of different days, and stay.
  const database = data.upload(randomUUID());
  const close = () => rm(database, { force: true });
  try {
    await copyDatabase(sequelize, database);
    const trouble = await databaseTrouble(database);
    if (trouble !== null) {
      throw new InputError('cannot-read', `The copy of the database is not whole (${trouble}); try it once more.`);
    }
    const entries = [await entryOf('tambur-data.json', data.marker), await entryOf('tambur.sqlite', database)];
    for (const folder of [data.sources, data.deliveries, data.lists]) {
      for (const file of await filesBelow(folder)) {
        const path = relative(data.root, file).split(sep);
        if (!path.some(isUnfinished)) entries.push(await entryOf(path.join('/'), file));
      }
    }
    return { entries, close };
  } catch (error) {
    await close();
    throw error;
  }
}

/** A source is up to four files, a delivery has some for each of its clips. */
const MOST_FILES = 2_000_000;

/** Where the files of a backup may go. */
const OURS = /^(tambur-data\.json|tambur\.sqlite|(sources|deliveries|lists)(\/[\w][\w.-]*)+)$/;

/**
 * Puts a backup into a new data folder: all of it, or nothing.
 * @throws InputError where the folder holds something already, or the backup is damaged
 */
export async function unpackBackup(path: string, data: DataFolder): Promise<void> {
  if (existsSync(data.root) && (await readdir(data.root)).length > 0) {
    throw new InputError(
      'cannot-write',
      `The folder ${data.root} holds something already; name a new one with --data for what is in the backup.`,
    );
  }
  const unfinished = `${data.root}.part`;
  const zip = await ZipFile.open(path, path, MOST_FILES);
  try {
    await rm(unfinished, { recursive: true, force: true });
    await mkdir(unfinished, { recursive: true });
    const entries = zip.paths();
    if (!entries.includes('tambur-data.json') || !entries.every((entry) => OURS.test(entry) && !entry.includes('..'))) {
      throw new InputError(
        'damaged',
        `${path} is not a backup of Tambur; name one that was made by "Back up everything".`,
      );
    }
    for (const entry of entries) {
      const file = join(unfinished, entry);
      await mkdir(dirname(file), { recursive: true });
      const handle = await open(file, 'wx');
      try {
        for await (const piece of zip.read(entry, null)) await writeAll(handle, piece);
        await handle.sync();
      } finally {
        await handle.close();
      }
    }
    await flush(unfinished);
    await rm(data.root, { recursive: true, force: true });
    await rename(unfinished, data.root);
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true });
    throw error;
  } finally {
    zip.close();
  }
}
