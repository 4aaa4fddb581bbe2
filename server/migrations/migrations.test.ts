import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newClip } from '@tambur/core';
import { expect, test } from 'vitest';
import { Clip, Job, openDatabase, Source } from '../models/index.ts';
import * as firstTables from './001-first-tables.ts';
import { migrate } from './index.ts';

test('a data folder of the first version keeps its sources and clips, and its rules', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'tambur-migration-'));
  const sequelize = await openDatabase(join(folder, 'tambur.sqlite'));
  try {
    const db = sequelize.getQueryInterface();
    await firstTables.up(db);
    const now = new Date().toISOString();
    const insert = (table: string, row: object) => db.bulkInsert(table, [row]);
    await insert('sources', { id: 's', name: 'bell.wav', sha256: 'abc', facts: '{"frames":1}', createdAt: now });
    await insert('jobs', { id: 'j', title: 'Phones', targetId: 't', revision: 3, createdAt: now });
    const settings = JSON.stringify({ version: 1, name: 'Bell', cut: { start: 9 }, rate: 'automatic' });
    await insert('clips', { id: 'c', jobId: 'j', sourceId: 's', position: 0, settings });
    await sequelize.query('CREATE TABLE SequelizeMeta (name VARCHAR(255) NOT NULL UNIQUE PRIMARY KEY)');
    await insert('SequelizeMeta', { name: '001-first-tables' });

    await migrate(sequelize);

    const source = await Source.findByPk('s');
    expect(source?.get()).toMatchObject({
      name: 'bell.wav',
      sha256: 'abc',
      key: 'abc',
      track: 0,
      reading: null,
      deletedAt: null,
    });
    expect((await Clip.findByPk('c'))?.get()).toMatchObject({
      sourceId: 's',
      clip: { id: 'c', name: 'Bell', wishes: {}, pieces: [{ source: 's', cut: { start: 9 }, gapMs: 0 }] },
    });
    // A clip's source still cannot go, and a job's clips go with it.
    await expect(Source.destroy({ where: { id: 's' } })).rejects.toThrow(/FOREIGN KEY/);
    await expect(
      Clip.create({ id: 'd', jobId: 'j', sourceId: 'x', rank: 'a1', clip: newClip('d', 'D', 'x') }),
    ).rejects.toThrow(/FOREIGN KEY/);
    await Job.destroy({ where: { id: 'j' } });
    expect(await Clip.count()).toBe(0);
    // Done twice it does nothing.
    await migrate(sequelize);
    expect(await Source.count()).toBe(1);
  } finally {
    await sequelize.close();
    rmSync(folder, { recursive: true, force: true });
  }
});
