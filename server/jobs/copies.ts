import { forAnotherDevice, jobDocOf, type LeftOut } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import { type Job, Source, writing } from '../models/index.ts';
import { asNewJob, createJob, workingJob } from './jobs.ts';
import { findSheet, madeFor } from './sheets.ts';

/**
 * The clips of a job as a new job for another device, of the same sources.
 * @throws InputError if there is no such sheet or variant
 */
export async function copyForDevice(
  sequelize: Sequelize,
  job: Job,
  sheetId: string,
  variant: string | null,
): Promise<{ readonly copy: Job; readonly left: readonly LeftOut[] }> {
  const document = jobDocOf(await workingJob(job));
  const sheet = await findSheet(sheetId);
  const ids = [...new Set(document.clips.flatMap(({ pieces }) => pieces.map(({ source }) => source)))];
  const facts = new Map((await Source.findAll({ where: { id: ids } })).map((source) => [source.id, source.facts]));
  const transferred = forAnotherDevice(document, sheet, variant, (id) => facts.get(id));
  const fresh = asNewJob({ format: 2, ...transferred.job, ...madeFor(sheet) });
  const copy = await writing(sequelize, (transaction) => createJob(fresh, transaction));
  return { copy, left: transferred.left };
}
