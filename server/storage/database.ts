import { existsSync, statSync } from 'node:fs';
import { copyFile, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf } from '@tambur/core';
import { Sequelize as Database, QueryTypes, type Sequelize } from 'sequelize';
import type { DataFolder } from './data-folder.ts';
import { flush, publish } from './disk.ts';
import { setAside, stamp } from './lost.ts';

/** Backups that are kept. */
const KEPT = 5;
const BACKUP = /^tambur-.*\.sqlite$/;

/** SQLite writes these beside its file while it is in use. */
const COMPANIONS = ['', '-wal', '-shm'];

export const hasDatabase = ({ database }: DataFolder): boolean => existsSync(database) && statSync(database).size > 0;

/** Opens a database for as long as `use` runs, as it is. */
export async function asItIs<T>(file: string, use: (database: Sequelize) => Promise<T>): Promise<T> {
  const database = new Database({ dialect: 'sqlite', storage: file, logging: false });
  try {
    return await use(database);
  } finally {
    await database.close();
  }
}

const rowsOf = <T extends object>(database: Sequelize, query: string): Promise<T[]> =>
  database.query<T>(query, { type: QueryTypes.SELECT });

/** Looks a database over (SQLite's `quick_check`). Gives what is wrong with it; null if it is whole and Tambur's. */
export async function databaseTrouble(file: string): Promise<string | null> {
  // SQLite waits for ever for what is no file.
  if (existsSync(file) && !statSync(file).isFile()) return 'it is not a file';
  try {
    return await asItIs(file, async (database) => {
      const [found] = await rowsOf<{ quick_check: string }>(database, 'PRAGMA quick_check(1)');
      if (found?.quick_check !== 'ok') return found?.quick_check ?? 'it could not be checked';
      const tables = await rowsOf<{ name: string }>(database, "SELECT name FROM sqlite_master WHERE type = 'table'");
      const names = tables.map(({ name }) => name);
      return names.includes('sources') && names.includes('jobs') ? null : 'it is not a database of Tambur';
    });
  } catch (error) {
    return messageOf(error);
  }
}

/** The id of the data folder that a whole database belongs to; null if it is of a version that knew of none. */
export const ownerOf = (file: string): Promise<string | null> =>
  asItIs(file, async (database) => {
    const tables = await rowsOf(database, "SELECT name FROM sqlite_master WHERE name = 'folder'");
    if (tables.length === 0) return null;
    const [row] = await rowsOf<{ id: string }>(database, 'SELECT id FROM folder');
    return row?.id ?? null;
  });

/** Names of all backups, the newest first. */
async function backupsOf({ backups }: DataFolder): Promise<string[]> {
  return (await readdir(backups))
    .filter((name) => BACKUP.test(name))
    .sort()
    .reverse();
}

/** Writes a copy of the database as it is now; what is written meanwhile is not in it. */
export async function copyDatabase(sequelize: Sequelize, file: string): Promise<void> {
  await rm(file, { force: true });
  await sequelize.query('VACUUM INTO :file', { replacements: { file } });
}

/**
 * Writes a copy of the database as it is now, safely on the disk, and lets all but the last five go.
 * @param isLast true if a newer version is about to change the database: another copy is for the version before, and
 * stays
 */
export async function backUp(data: DataFolder, sequelize: Sequelize, isLast = false): Promise<void> {
  const name = `tambur-${stamp()}.sqlite`;
  const finished = join(data.backups, name);
  const unfinished = `${finished}.part`;
  await copyDatabase(sequelize, unfinished);
  await publish(unfinished, finished);
  if (isLast) {
    await copyFile(finished, unfinished);
    await publish(unfinished, join(data.backups, `before-update-${name}`));
  }
  for (const name of (await backupsOf(data)).slice(KEPT)) await rm(join(data.backups, name));
}

/** The newest backup that is whole; null without one. */
export async function newestGoodBackup(data: DataFolder): Promise<string | null> {
  for (const name of await backupsOf(data)) {
    const file = join(data.backups, name);
    if ((await databaseTrouble(file)) === null) return file;
  }
  return null;
}

/** Moves the database out of the way, into `lost/`. */
export async function setDatabaseAside(data: DataFolder): Promise<void> {
  const name = data.database.slice(data.root.length + 1);
  await setAside(
    data,
    data.root,
    (entry) => COMPANIONS.some((end) => entry === name + end),
    'a database that was replaced',
  );
}

/** Puts a backup in the place of the database, which has been set aside. */
export async function restore(data: DataFolder, backup: string): Promise<void> {
  const unfinished = `${data.database}.part`;
  await copyFile(backup, unfinished);
  await flush(unfinished);
  await rename(unfinished, data.database);
  await flush(data.root);
}
