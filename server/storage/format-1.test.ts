import { createHash } from 'node:crypto';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readDocument, settingsOf } from '@tambur/core';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { findJob, workingJob } from '../jobs/jobs.ts';
import { findSheet } from '../jobs/sheets.ts';
import { ArtifactRow, Delivery, Job, Source } from '../models/index.ts';
import { DataFolder } from './data-folder.ts';
import { claimFolder, openFolder } from './opening.ts';

/** A data folder as the version before format 2 left it: two sources, a sheet, four jobs, three deliveries. Never changed. */
const frozen = fileURLToPath(new URL('../fixtures/format-1', import.meta.url));

let root: string;
let data: DataFolder;

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'format-1-'));
  cpSync(frozen, root, { recursive: true });
  data = new DataFolder(root);
});
afterEach(() => rmSync(root, { recursive: true, force: true }));

const open = async () => openFolder(data, await claimFolder(data), 'usual');

/** The rows of a database file as they are, whatever version wrote them. */
async function rowsIn(file: string, table: string): Promise<readonly Record<string, unknown>[]> {
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  try {
    return await database.query(`SELECT * FROM ${table} ORDER BY id`, { type: QueryTypes.SELECT });
  } finally {
    await database.close();
  }
}

const sha = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');

test('it starts, and keeps everything', async () => {
  const [jobsBefore, filesBefore] = await Promise.all([
    rowsIn(data.database, 'jobs'),
    rowsIn(data.database, 'delivered_files'),
  ]);
  const { sequelize, said } = await open();
  try {
    expect(said).toEqual([]);
    expect(await Source.count()).toBe(2);
    const jobs = await Job.findAll({ order: [['id', 'ASC']] });
    expect(
      jobs.map(({ id, title, targetId, variantId, revision }) => ({ id, title, targetId, variantId, revision })),
    ).toEqual(
      jobsBefore.map(({ id, title, targetId, variantId, revision }) => ({ id, title, targetId, variantId, revision })),
    );

    const cabin = jobs.find(({ title }) => title === 'Spare cabin')!;
    const job = await workingJob(await findJob(cabin.id));
    expect(job.clips.map(({ name, pieces }) => [name, pieces[0].cut])).toEqual([
      ['Bell', { start: 100, end: 2000 }],
      ['Chime', undefined],
      ['Bell again', { start: 300 }],
    ]);
    expect(settingsOf(job.clips[0], job)).toMatchObject({ level: { peakDb: -6 }, ends: { fadeOut: { ms: 20 } } });
    expect(await findSheet('spare-board')).toMatchObject({ format: 2, packs: [{ path: 'sounds.h' }] });

    const deliveries = await Delivery.findAll();
    const artifacts = await ArtifactRow.findAll();
    expect(deliveries).toHaveLength(3);
    expect(artifacts.map(({ path, sha256 }) => `${path} ${sha256}`).sort()).toEqual(
      filesBefore.map(({ name, sha256 }) => `${name} ${sha256}`).sort(),
    );
    for (const { id, record } of deliveries) {
      const own = artifacts.filter(({ deliveryId }) => deliveryId === id);
      for (const { path, sha256 } of own) expect(sha(join(data.delivery(id), path))).toBe(sha256);
      const whole = {
        ...record,
        artifacts: own.map(({ path, role, bytes, sha256, madeOf, parts }) => ({
          path,
          role,
          bytes,
          sha256,
          madeOf,
          parts,
        })),
      };
      expect(readDocument('delivery', whole, 'The delivery').job.clips.length).toBeGreaterThan(0);
      expect(Object.keys(record.sources).length).toBeGreaterThan(0);
    }
  } finally {
    await sequelize.close();
  }
});

test('the version before finds its own database in the backup that was made before', async () => {
  const tables = ['jobs', 'clips', 'sources', 'sheets', 'deliveries', 'delivered_files'];
  const before = await Promise.all(tables.map((table) => rowsIn(data.database, table)));
  for (let starts = 0; starts < 7; starts++) {
    const { sequelize } = await open();
    await sequelize.close();
  }
  const kept = readdirSync(data.backups).filter((name) => name.startsWith('before-update-'));
  expect(kept).toHaveLength(1);
  const backup = join(data.backups, kept[0]);
  expect(await Promise.all(tables.map((table) => rowsIn(backup, table)))).toEqual(before);
});

test('a folder that a newer version has used is refused in one sentence', async () => {
  const { sequelize } = await open();
  await sequelize.query("INSERT INTO SequelizeMeta (name) VALUES ('099-format-9')");
  await sequelize.close();
  await expect(open()).rejects.toThrow(
    /^A newer Tambur has used this data folder \(099-format-9\); use that one, or go back to a backup with --restore\.$/,
  );
});
