import { createHash } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { askedBy, editionsOf, jobDocOf, type Requirement, readDocument, type Target } from '@tambur/core';
import { expect, test } from 'vitest';
import { recordWithFiles } from '../jobs/delivery-record.ts';
import { findJob, workingJob } from '../jobs/jobs.ts';
import { findSheet } from '../jobs/sheets.ts';
import { Delivery, Job } from '../models/index.ts';
import { DataFolder } from './data-folder.ts';
import { claimFolder, openFolder } from './opening.ts';

/** A data folder of core 0.4.0: two sources, two sheets, four jobs and their deliveries; and what was read of it then. Never changed. */
const frozen = fileURLToPath(new URL('../fixtures/format-2', import.meta.url));
const then = JSON.parse(readFileSync(`${frozen}/what-is-in-it.json`, 'utf8'));

const sha = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');

test('a data folder of format 2 is read as it was, and its files are what they were', async () => {
  const root = mkdtempSync(join(tmpdir(), 'format-2-'));
  cpSync(frozen, root, { recursive: true });
  const data = new DataFolder(root);
  const { sequelize, said } = await openFolder(data, await claimFolder(data), 'usual');
  try {
    expect(said).toEqual([]);
    const jobs = [];
    for (const { id } of await Job.findAll({ order: [['title', 'ASC']] })) {
      jobs.push(readDocument('job', jobDocOf(await workingJob(await findJob(id))), 'The job'));
    }
    const records = [];
    for (const delivery of await Delivery.findAll({ order: [['id', 'ASC']] })) {
      const record = readDocument('delivery', await recordWithFiles(delivery), 'The delivery');
      for (const { path, sha256 } of record.artifacts) expect(sha(join(data.delivery(delivery.id), path))).toBe(sha256);
      records.push(record);
    }
    const sheets = [await findSheet('spare-gong'), await findSheet('spare-stick-player')];
    const read = JSON.parse(JSON.stringify({ jobs, records, sheets }));
    for (const sheet of [...read.sheets, ...read.records.map((record: { readonly sheet: Target }) => record.sheet)]) {
      // What follows from its player besides is not asked, as it was not.
      expect(
        askedBy(sheet)
          .map(({ key }) => key)
          .sort(),
      ).toEqual(sheet.requirements.map(({ key }: Requirement) => key).sort());
      delete sheet.without;
    }
    // Jobs for sheets that ship say for which edition they are made.
    for (const job of read.jobs) {
      expect(job.edition).toBe(editionsOf(job.sheet)[0]?.edition);
      delete job.edition;
    }
    expect(read).toEqual(then);
  } finally {
    await sequelize.close();
    rmSync(root, { recursive: true, force: true });
  }
});
