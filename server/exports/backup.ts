import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join, relative, sep } from 'node:path';
import { Readable } from 'node:stream';
import { InputError, pathClash } from '@tambur/core';
import { filesBelow, ZipFile } from '@tambur/disk';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import { DataFolder, isUnfinished } from '../storage/data-folder.ts';
import { asItIs, copyDatabase, databaseTrouble } from '../storage/database.ts';
import { flush, writeAll } from '../storage/disk.ts';
import { troubleWords, verifyAll } from '../storage/verify.ts';

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
      throw new InputError('cannot-read', `The copy of the database is damaged (${trouble}); try again.`);
    }
    const entries = [await entryOf('tambur-data.json', data.marker), await entryOf('tambur.sqlite', database)];
    for (const folder of [data.sources, data.deliveries, data.lists]) {
      for (const file of await filesBelow(folder, isUnfinished)) {
        entries.push(await entryOf(relative(data.root, file).split(sep).join('/'), file));
      }
    }
    return { entries: withHashes(entries), close };
  } catch (error) {
    await close();
    throw error;
  }
}

/** A source is up to four files, a delivery has some for each of its clips. */
const MOST_FILES = 2_000_000;

/** Hashes of all other entries of a backup, by their paths: its last entry. Those of earlier versions have none. */
const HASHES = 'hashes.json';
const hashesSchema = v.strictObject({
  format: v.literal(1),
  hashes: v.record(v.string(), v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/))),
});
const LARGEST_HASHES = 500_000_000;

/** The text of the last entry: as long whatever the hashes are, so that its size is known beforehand. */
const hashesText = (paths: readonly string[], hashOf: (path: string) => string): string =>
  JSON.stringify({ format: 1, hashes: Object.fromEntries(paths.map((path) => [path, hashOf(path)])) });

/** An entry whose bytes are hashed while they are read. */
const hashed = (entry: BackupEntry, note: (sha256: string) => void): BackupEntry => ({
  ...entry,
  open() {
    const hash = createHash('sha256');
    const noting = new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, controller) {
        hash.update(piece);
        controller.enqueue(piece);
      },
      flush: () => note(hash.digest('hex')),
    });
    return entry.open().pipeThrough(noting);
  },
});

/** The entries of a backup, and after them their hashes, which are known when all others have been read. */
function withHashes(entries: readonly BackupEntry[]): readonly BackupEntry[] {
  const known = new Map<string, string>();
  const paths = entries.map(({ path }) => path);
  const text = (hashOf: (path: string) => string) => Buffer.from(hashesText(paths, hashOf));
  const last: BackupEntry = {
    path: HASHES,
    bytes: text(() => '0'.repeat(64)).length,
    open: () => new Blob([text((path) => known.get(path) ?? '')]).stream() as ReadableStream<Uint8Array>,
  };
  return [...entries.map((entry) => hashed(entry, (sha256) => known.set(entry.path, sha256))), last];
}

const notWhole = (path: string, what: string) =>
  new InputError('damaged', `The backup ${path} is damaged: ${what}; use another one. Nothing was restored.`);

/** Where the files of a backup may go. */
const OURS = /^(tambur-data\.json|hashes\.json|tambur\.sqlite|(sources|deliveries|lists)(\/[\w][\w.-]*)+)$/;

async function hashesIn(zip: ZipFile, path: string): Promise<Readonly<Record<string, string>>> {
  let value: unknown;
  try {
    value = JSON.parse(await zip.text(HASHES, null, LARGEST_HASHES));
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
  }
  const result = v.safeParse(hashesSchema, value, { abortEarly: true });
  if (!result.success) throw notWhole(path, 'its hashes cannot be read');
  return result.output.hashes;
}

/** Compares what was unpacked with what its database knows of it: all that there is to go by for backups without hashes. */
async function verifyUnpacked(path: string, data: DataFolder): Promise<void> {
  const trouble = await databaseTrouble(data.database);
  if (trouble !== null) throw notWhole(path, `its database is damaged (${trouble})`);
  const { troubles } = await asItIs(data.database, (database) => verifyAll(data, database));
  if (troubles.length) throw notWhole(path, troubleWords(troubles));
}

/** No path of a backup of ours is longer. */
const LONGEST_PATH = 300;

/**
 * Puts a backup into a new data folder: all of it, or nothing.
 * @throws InputError if the folder holds something already, or the backup is damaged
 */
export async function unpackBackup(path: string, data: DataFolder): Promise<void> {
  if (existsSync(data.root) && (await readdir(data.root)).length > 0) {
    throw new InputError(
      'cannot-write',
      `The folder ${data.root} is not empty; name a new one with --data to restore the backup into.`,
    );
  }
  const unfinished = `${data.root}.part`;
  const zip = await ZipFile.open(path, path, MOST_FILES);
  try {
    await rm(unfinished, { recursive: true, force: true });
    await mkdir(unfinished, { recursive: true });
    const entries = zip.paths();
    const isOurs = entries.every((entry) => OURS.test(entry) && entry.length < LONGEST_PATH && !entry.includes('..'));
    if (!entries.includes('tambur-data.json') || !isOurs) {
      throw new InputError(
        'damaged',
        `${path} is not a backup of Tambur; name one that was made by "Back up everything".`,
      );
    }
    const clash = pathClash(entries);
    if (clash !== null) throw notWhole(path, `${clash} conflicts with another entry`);
    if (!entries.includes('tambur.sqlite')) throw notWhole(path, 'it has no database');
    const hashes = entries.includes(HASHES) ? await hashesIn(zip, path) : null;
    const missing = Object.keys(hashes ?? {}).find((entry) => !entries.includes(entry));
    if (missing !== undefined) throw notWhole(path, `${missing} is missing`);
    for (const entry of entries.filter((name) => name !== HASHES)) {
      const file = join(unfinished, entry);
      const sha256 = hashes ? hashes[entry] : null;
      if (sha256 === undefined) throw notWhole(path, `${entry} does not belong to a backup`);
      await mkdir(dirname(file), { recursive: true });
      const handle = await open(file, 'wx');
      try {
        for await (const piece of zip.read(entry, sha256)) await writeAll(handle, piece);
        await handle.sync();
      } finally {
        await handle.close();
      }
    }
    await verifyUnpacked(path, new DataFolder(unfinished));
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
