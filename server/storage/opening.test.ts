import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FACTS_VERSION } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { phoneJobRow, workerFile } from '../fixtures/data.ts';
import { Importer } from '../imports/importer.ts';
import { Job, Source } from '../models/index.ts';
import { DataFolder } from './data-folder.ts';
import { backUp } from './database.ts';
import { lockFolder } from './lock.ts';
import { claimFolder, type Opening, openFolder } from './opening.ts';

let root: string;
let data: DataFolder;

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'tambur-opening-'));
  data = new DataFolder(root);
});
afterEach(() => rmSync(root, { recursive: true, force: true }));

/** Opens the folder, works in it, and closes it again. */
async function opened<T>(
  opening: Opening,
  work: (folder: Awaited<ReturnType<typeof openFolder>>) => Promise<T>,
): Promise<T> {
  const folder = await openFolder(data, await claimFolder(data), opening);
  try {
    return await work(folder);
  } finally {
    await folder.sequelize.close();
  }
}

async function* bytes(text: string) {
  yield Buffer.from(text);
}

/** A folder with two sources and a job. */
const filled = () =>
  opened('usual', async ({ sequelize }) => {
    const importer = new Importer(data, sequelize, workerFile);
    await importer.take('bell.wav', bytes('bell'));
    await importer.take('wind.wav', bytes('wind'));
    await importer.close();
    await Job.create(phoneJobRow('j', 'Phones'));
    await backUp(data, sequelize);
  });

const removeDatabase = () => {
  for (const end of ['', '-wal', '-shm']) rmSync(data.database + end, { force: true });
};

const emptyDatabase = () => {
  removeDatabase();
  writeFileSync(data.database, '');
};

describe('a folder that is not ours', () => {
  test.each([
    ['other files', () => writeFileSync(join(root, 'thesis.txt'), 'mine')],
    ['folders of the same names as ours', () => mkdirSync(join(root, 'sources', 'holiday'), { recursive: true })],
    ['a database of another program', () => writeFileSync(join(root, 'tambur.sqlite'), 'not a database at all')],
  ])('with %s is refused, and nothing in it is touched', async (_, fill) => {
    fill();
    const before = readdirSync(root, { recursive: true });
    await expect(claimFolder(data)).rejects.toThrow(/holds other files and is not a data folder of Tambur/);
    expect(readdirSync(root, { recursive: true })).toEqual(before);
  });

  test('an empty one, or a new one, becomes ours', async () => {
    expect((await claimFolder(data)).isNew).toBe(true);
    const deep = new DataFolder(join(root, 'a', 'b'));
    expect((await claimFolder(deep)).isNew).toBe(true);
    const { id } = JSON.parse(readFileSync(data.marker, 'utf8'));
    expect(await claimFolder(data)).toEqual({ id, isNew: false });
  });

  test('one of an earlier version, its database whole, gets its marker and keeps everything', async () => {
    await filled();
    await opened('usual', async ({ sequelize }) => {
      await sequelize.query('DROP TABLE folder');
      await sequelize.query("DELETE FROM SequelizeMeta WHERE name = '004-folder'");
    });
    rmSync(data.marker);
    const [sources, jobs] = await opened('usual', async () => [await Source.count(), await Job.count()]);
    expect([sources, jobs]).toEqual([2, 1]);
    expect(existsSync(data.marker)).toBe(true);
  });

  test.each(['lost', 'damaged'])('whose marker was %s gets it back as it was', async (how) => {
    await filled();
    const before = readFileSync(data.marker, 'utf8');
    if (how === 'lost') rmSync(data.marker);
    else writeFileSync(data.marker, '{"format":');
    expect(await opened('usual', () => Job.count())).toBe(1);
    expect(readFileSync(data.marker, 'utf8')).toBe(before);
  });

  test('the database of another folder is refused', async () => {
    await filled();
    writeFileSync(data.marker, JSON.stringify({ format: 1, id: '00000000-0000-4000-8000-000000000000' }));
    const backups = readdirSync(data.backups);
    await expect(opened('usual', async () => undefined)).rejects.toThrow(/belongs to another data folder/);
    // It is no backup of this folder's own.
    expect(readdirSync(data.backups)).toEqual(backups);
    expect(readdirSync(data.sources)).toHaveLength(2);
  });
});

describe('a database that cannot be used', () => {
  const damage = () => {
    const whole = readFileSync(data.database);
    whole.fill(0x55, 100, 3000);
    removeDatabase();
    writeFileSync(data.database, whole);
  };

  test.each([
    [
      'is gone',
      removeDatabase,
      /is gone: start with --restore to go back to the newest good backup, tambur-.*, or with --recover/,
    ],
    ['is empty', emptyDatabase, /is gone: start with --restore/],
    ['is damaged', damage, /is damaged \(.+\): start with --restore/],
  ])('because it %s: nothing is touched, and what can be done is said', async (_, harm, words) => {
    await filled();
    harm();
    await expect(opened('usual', async () => undefined)).rejects.toThrow(words);
    expect(readdirSync(data.sources)).toHaveLength(2);
  });

  test.each([
    ['gone', removeDatabase] as const,
    ['damaged', damage] as const,
  ])('%s, --recover: the sources come back from the disk, by name', async (_, harm) => {
    await filled();
    const before = await opened('usual', async () =>
      (await Source.findAll({ order: ['key'] })).map((row) => row.toJSON()),
    );
    harm();
    const { said, after, jobs } = await opened('recover', async (folder) => ({
      said: folder.said,
      after: (await Source.findAll({ order: ['key'] })).map((row) => row.toJSON()),
      jobs: await Job.count(),
    }));
    expect(said.join(' ')).toMatch(/Recovered 2 sources from the disk: (bell\.wav, wind\.wav|wind\.wav, bell\.wav)\./);
    expect(after).toEqual(before);
    expect(jobs).toBe(0);
    expect(await opened('usual', () => Source.count())).toBe(2);
  });

  test('--restore: the newest good backup comes back, and sources that it does not know', async () => {
    await filled();
    await opened('usual', async ({ sequelize }) => {
      const importer = new Importer(data, sequelize, workerFile);
      await importer.take('late.wav', bytes('late'));
      await importer.close();
    });
    // The newest backup is damaged: the one before counts.
    for (const name of readdirSync(data.backups).sort().slice(-1)) writeFileSync(join(data.backups, name), 'damaged');
    damage();
    const { said, sources, jobs } = await opened('restore', async (folder) => ({
      said: folder.said.join(' '),
      sources: await Source.count(),
      jobs: await Job.count(),
    }));
    expect(said).toMatch(/Went back to the backup tambur-/);
    expect(said).toContain('Recovered a source from the disk: late.wav.');
    expect([sources, jobs]).toEqual([3, 1]);
    expect(readFileSync(join(data.lost, 'list.txt'), 'utf8')).toContain('a database that was replaced');
  });

  test('the last five backups are kept, and each is whole', async () => {
    await filled();
    await opened('usual', async ({ sequelize }) => {
      for (let i = 0; i < 7; i++) await backUp(data, sequelize);
    });
    const names = readdirSync(data.backups);
    expect(names).toHaveLength(5);
    for (const name of names) {
      removeDatabase();
      writeFileSync(data.database, readFileSync(join(data.backups, name)));
      expect(await opened('usual', () => Job.count())).toBe(1);
    }
  });
});

test('a headerless source comes back with all of how it is read', async () => {
  const reading = { encoding: 'pcm-s16le', sampleRate: 11_025.5, channels: 2, skip: 44, bits: 12 };
  await opened('usual', async ({ sequelize }) => {
    const importer = new Importer(data, sequelize, workerFile);
    await importer.take('bell.raw', bytes('bell'), { reading });
    await importer.close();
  });
  removeDatabase();
  expect(await opened('recover', async () => (await Source.findOne())?.reading)).toEqual(reading);
});

test('facts of another version are read anew, not believed', async () => {
  await filled();
  for (const key of readdirSync(data.sources)) {
    const { record } = data.source(key);
    writeFileSync(record, readFileSync(record, 'utf8').replace(`"version":${FACTS_VERSION}`, '"version":3'));
  }
  removeDatabase();
  const versions = await opened('recover', async () => (await Source.findAll()).map(({ facts }) => facts.version));
  expect(versions).toEqual([0, 0]);
});

describe('the lock', () => {
  const never = (error: Error) => {
    throw error;
  };

  test('is had by one, and by the next when that one gives it free', async () => {
    const first = await lockFolder(root, never);
    if (!('release' in first)) throw new Error('not had');
    expect(await lockFolder(root, never)).toEqual({ heldBy: process.pid });
    await first.release();
    const second = await lockFolder(root, never);
    expect(second).toHaveProperty('release');
    if ('release' in second) await second.release();
  });

  test('of a process that is gone counts for nothing, at once', async () => {
    const gone = spawnSync('true').pid;
    mkdirSync(join(root, 'lock.dir'));
    writeFileSync(join(root, 'lock.json'), JSON.stringify({ pid: gone }));
    const lock = await lockFolder(root, never);
    expect(lock).toHaveProperty('release');
    if ('release' in lock) await lock.release();
  });

  test('whose holder file is no JSON is still a lock', async () => {
    mkdirSync(join(root, 'lock.dir'));
    writeFileSync(join(root, 'lock.json'), '{');
    expect(await lockFolder(root, never)).toEqual({ heldBy: null });
  });
});
