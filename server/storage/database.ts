import { existsSync, statSync } from 'node:fs';
import { copyFile, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
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

/** Looks a database over (SQLite's `quick_check`). Gives what is wrong with it; null where it is whole and Tambur's. */
export async function databaseTrouble(file: string): Promise<string | null> {
  const database = new Database({ dialect: 'sqlite', storage: file, logging: false });
  try {
    const found = await database.query<{ quick_check: string }>('PRAGMA quick_check(1)', { type: QueryTypes.SELECT });
    const words = found[0]?.quick_check ?? 'it could not be looked over';
    if (words !== 'ok') return words;
    const tables = await database.query<{ name: string }>("SELECT name FROM sqlite_master WHERE type = 'table'", {
      type: QueryTypes.SELECT,
    });
    const names = tables.map(({ name }) => name);
    return names.includes('sources') && names.includes('jobs') ? null : 'it is not one of Tambur';
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  } finally {
    await database.close();
  }
}

/** Names of all backups, the newest first. */
async function backupsOf({ backups }: DataFolder): Promise<string[]> {
  return (await readdir(backups))
    .filter((name) => BACKUP.test(name))
    .sort()
    .reverse();
}

/** Writes a copy of the database as it is now, safely on the disk, and lets all but the last five go. */
export async function backUp(data: DataFolder, sequelize: Sequelize): Promise<void> {
  const finished = join(data.backups, `tambur-${stamp()}.sqlite`);
  const unfinished = `${finished}.part`;
  await rm(unfinished, { force: true });
  await sequelize.query('VACUUM INTO :unfinished', { replacements: { unfinished } });
  await publish(unfinished, finished);
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
