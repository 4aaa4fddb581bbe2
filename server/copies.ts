import { randomUUID } from 'node:crypto';
import { forAnotherDevice, jobDocOf, type LeftOut, workingJobOf } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import { newJob, workingJob } from './jobs.ts';
import { Clip, Job, Source, writing } from './models/index.ts';
import { findSheet } from './sheets.ts';

/**
 * The clips of a job as a new job for another device, of the same sources.
 * @throws InputError where there is no such sheet or variant
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
  const fresh = new Map(transferred.job.clips.map(({ id }) => [id, randomUUID()]));
  const { title, clips, values, wishes, places, ownLists } = workingJobOf({
    format: 2,
    ...transferred.job,
    clips: transferred.job.clips.map((clip) => ({ ...clip, id: fresh.get(clip.id) ?? clip.id })),
    places: Object.fromEntries(
      Object.entries(transferred.job.places).map(([number, id]) => [number, fresh.get(id) ?? id]),
    ),
  });
  const copy = await writing(sequelize, async (transaction) => {
    const row = { ...newJob(title, sheet.id, variant), more: { values, wishes, places, ownLists } };
    const made = await Job.create(row, { transaction });
    await Clip.bulkCreate(
      clips.map(({ rank, ...clip }) => ({
        ...{ id: clip.id, jobId: made.id, rank, clip },
        sourceId: clip.pieces[0]?.source ?? '',
      })),
      { transaction },
    );
    return made;
  });
  return { copy, left: transferred.left };
}
