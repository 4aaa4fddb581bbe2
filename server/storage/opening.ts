import { randomUUID } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { basename } from 'node:path';
import { InputError } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import { isOutdated, migrate } from '../migrations/index.ts';
import { Folder, openDatabase, writing } from '../models/index.ts';
import { type DataFolder, isUnfinished } from './data-folder.ts';
import {
  backUp,
  databaseTrouble,
  hasDatabase,
  newestGoodBackup,
  ownerOf,
  restore,
  setDatabaseAside,
} from './database.ts';
import { makeFolder, readJson, writeWhole } from './disk.ts';
import { takeBack } from './source-record.ts';

/** How a data folder is opened: as it is; with the newest good backup; or with what its sources say of themselves alone. */
export type Opening = 'usual' | 'restore' | 'recover';

export interface OpenedFolder {
  readonly sequelize: Sequelize;
  /** True if nothing was there before. */
  readonly isNew: boolean;
  /** A sentence for each thing that was done. */
  readonly said: readonly string[];
}

const markerSchema = v.object({ format: v.literal(1), id: v.pipe(v.string(), v.uuid()) });

/** What a folder may hold and still count as empty: a disk's own entry, and what a lock leaves. */
const IGNORED = ['lost+found', 'lock.dir', 'lock.json', 'lock'];

const refuse = (words: string) => new InputError('cannot-read', words);

/**
 * Makes sure that a folder is Tambur's before anything in it is touched: it carries a marker, or is empty and gets one. A
 * folder of an earlier version, its database whole, gets its marker now.
 * @returns the folder's id, and whether it was empty
 * @throws InputError if it is somebody else's
 */
export async function claimFolder(data: DataFolder): Promise<{ readonly id: string; readonly isNew: boolean }> {
  await makeFolder(data.root);
  const marker = v.safeParse(markerSchema, await readJson(data.marker));
  if (marker.success) return { id: marker.output.id, isNew: false };
  const isNew = (await readdir(data.root)).every((name) => IGNORED.includes(name) || isUnfinished(name));
  if (!isNew && !(hasDatabase(data) && (await databaseTrouble(data.database)) === null)) {
    throw refuse(
      `The folder ${data.root} holds other files and is not a data folder of Tambur; name an empty or a new one with --data.`,
    );
  }
  // A marker that was lost or damaged is made again as it was.
  const id = (isNew ? null : await ownerOf(data.database)) ?? randomUUID();
  await writeWhole(data.marker, JSON.stringify({ format: 1, id }));
  return { id, isNew };
}

/** What can be done about a database that cannot be used. */
async function offers(data: DataFolder): Promise<string> {
  const backup = await newestGoodBackup(data);
  const recover = '--recover keeps the sources and begins without jobs';
  return backup
    ? `start with --restore to go back to the newest good backup, ${basename(backup)}, or with --recover: it keeps the sources and begins without jobs.`
    : `there is no good backup; ${recover}.`;
}

/** Whether anything would be missed if a new database took the place of one that is not there. */
const holdsSomething = async (data: DataFolder): Promise<boolean> =>
  (await readdir(data.sources)).some((name) => !isUnfinished(name)) || (await newestGoodBackup(data)) !== null;

/** Brings the database file to where it can be opened. */
async function prepareDatabase(data: DataFolder, opening: Opening): Promise<string[]> {
  const isThere = hasDatabase(data);
  const trouble = isThere ? await databaseTrouble(data.database) : null;
  if (opening === 'usual') {
    if (trouble !== null) {
      throw refuse(`The database ${data.database} is damaged (${trouble}): ${await offers(data)}`);
    }
    if (!isThere && (await holdsSomething(data))) {
      throw refuse(`The database ${data.database} is gone: ${await offers(data)}`);
    }
    return [];
  }
  const backup = opening === 'restore' ? await newestGoodBackup(data) : null;
  if (opening === 'restore' && !backup) {
    throw refuse(`There is no good backup in ${data.backups}; start with --recover to keep the sources.`);
  }
  await setDatabaseAside(data);
  if (!backup) return ['Began a new database; the previous one is in lost/.'];
  await restore(data, backup);
  return [`Went back to the backup ${basename(backup)}; the previous database is in lost/.`];
}

/**
 * Opens a data folder that has been claimed: its database looked over, backed up and brought up to date.
 * @throws InputError with one sentence where that cannot be done
 */
export async function openFolder(
  data: DataFolder,
  claim: { readonly id: string; readonly isNew: boolean },
  opening: Opening,
): Promise<OpenedFolder> {
  await data.create();
  const said = await prepareDatabase(data, opening);
  const wasThere = hasDatabase(data);
  const owner = wasThere ? await ownerOf(data.database) : null;
  if (owner !== null && owner !== claim.id) {
    throw refuse(
      `The database ${data.database} belongs to another data folder; put this folder's own back, or: ${await offers(data)}`,
    );
  }
  const sequelize = await openDatabase(data.database);
  try {
    if (wasThere) await backUp(data, sequelize, await isOutdated(sequelize));
    await migrate(sequelize);
    if (owner === null) await writing(sequelize, (transaction) => Folder.create({ id: claim.id }, { transaction }));
    if (opening !== 'usual') {
      const names = await takeBack(data, sequelize);
      said.push(
        names.length
          ? `Recovered ${names.length === 1 ? 'a source' : `${names.length} sources`} from the disk: ${names.join(', ')}.`
          : 'No source had to be recovered from the disk.',
      );
    }
    return { sequelize, isNew: claim.isNew, said };
  } catch (error) {
    await sequelize.close();
    throw error;
  }
}
