import { existsSync } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { sha256OfFile } from '@tambur/disk';
import { QueryTypes, type Sequelize } from 'sequelize';
import type { DataFolder } from './data-folder.ts';
import { isUnfinished } from './data-folder.ts';

/** A file whose bytes are known by their hash. */
interface KnownFile {
  /** For people. */
  readonly name: string;
  readonly path: string;
  readonly sha256: string;
}

async function rowsOf<T extends object>(database: Sequelize, table: string, query: string): Promise<T[]> {
  // A database of an earlier version has not all of them.
  const found = await database.query("SELECT name FROM sqlite_master WHERE type = 'table' AND name = :table", {
    replacements: { table },
    type: QueryTypes.SELECT,
  });
  return found.length ? database.query<T>(query, { type: QueryTypes.SELECT }) : [];
}

/** The originals of sources. */
async function originalsOf(data: DataFolder, database: Sequelize): Promise<KnownFile[]> {
  const rows = await rowsOf<{ name: string; key: string; sha256: string }>(
    database,
    'sources',
    'SELECT name, key, sha256 FROM sources ORDER BY key',
  );
  return rows.map(({ name, key, sha256 }) => ({ name, sha256, path: data.source(key).original }));
}

/** Files of finished deliveries, and the lists that devices have. */
async function otherFiles(data: DataFolder, database: Sequelize): Promise<KnownFile[]> {
  const artifacts = await rowsOf<{ deliveryId: string; path: string; sha256: string }>(
    database,
    'artifacts',
    "SELECT deliveryId, path, sha256 FROM artifacts WHERE deliveryId IN (SELECT id FROM deliveries WHERE state = 'done')",
  );
  const lists = existsSync(data.lists) ? (await readdir(data.lists)).filter((name) => !isUnfinished(name)) : [];
  return [
    ...artifacts.map(({ deliveryId, path, sha256 }) => ({
      ...{ name: `${path} of a delivery`, sha256 },
      path: join(data.delivery(deliveryId), path),
    })),
    ...lists.map((sha256) => ({ name: `the list ${sha256.slice(0, 8)}`, sha256, path: data.list(sha256) })),
  ];
}

/** What is wrong with a file, in words; null if it is what it was. */
async function troubleOf({ name, path, sha256 }: KnownFile): Promise<string | null> {
  if (!existsSync(path)) return `${name} is gone`;
  return (await sha256OfFile(path)) === sha256 ? null : `${name} is damaged`;
}

export interface Verified {
  readonly files: number;
  /** One for each file that is gone or not what it was. */
  readonly troubles: readonly string[];
}

async function verified(files: readonly KnownFile[]): Promise<Verified> {
  const troubles: string[] = [];
  for (const file of files) {
    const trouble = await troubleOf(file);
    if (trouble !== null) troubles.push(trouble);
  }
  return { files: files.length, troubles };
}

/** Compares every file that a database knows by its hash with that. */
export const verifyAll = async (data: DataFolder, database: Sequelize): Promise<Verified> =>
  verified([...(await originalsOf(data, database)), ...(await otherFiles(data, database))]);

/** Bytes of originals that are looked at each time that Tambur starts. */
const LOOKED_AT = 200_000_000;

/** The same for some of the originals, others each time. */
export async function verifySome(data: DataFolder, database: Sequelize, most = LOOKED_AT): Promise<Verified> {
  const all = await originalsOf(data, database);
  const first = Math.floor(Math.random() * all.length);
  const chosen: KnownFile[] = [];
  let bytes = 0;
  for (const file of [...all.slice(first), ...all.slice(0, first)]) {
    bytes += existsSync(file.path) ? (await stat(file.path)).size : 0;
    if (bytes > most) break;
    chosen.push(file);
  }
  return verified(chosen);
}

/** Troubles as one sentence; the first few by name. */
export function troubleWords(troubles: readonly string[]): string {
  const shown = troubles.slice(0, 5).join(', ');
  return troubles.length > 5 ? `${shown}, and ${troubles.length - 5} more` : shown;
}
