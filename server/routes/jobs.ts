import { randomUUID } from 'node:crypto';
import { oneLine, parseSettings, withVariant } from '@tambur/core';
import { Hono } from 'hono';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import * as v from 'valibot';
import type { Builder } from '../builds/builder.ts';
import { Clip, DeliveredFile, Delivery, Job, Source, writing } from '../models/index.ts';
import { notFound, Problem } from '../problems.ts';
import { findSheet, sheetOfJob } from '../sheets.ts';
import { restoreSources, sourceView } from '../shelf.ts';
import { type DataFolder, removeStray } from '../storage/data-folder.ts';
import type { ClipView, JobSummary, JobView } from '../views.ts';
import { jsonBody } from './body.ts';
import { deliveryView } from './deliveries.ts';

const titleSchema = v.pipe(
  v.string(),
  v.transform(oneLine),
  v.trim(),
  v.nonEmpty('a job needs a title'),
  v.maxLength(120),
);

const variantSchema = v.optional(v.nullable(v.string()));
const newJobSchema = v.object({ title: titleSchema, targetId: v.string(), variantId: variantSchema });
const jobChangeSchema = v.object({ title: v.optional(titleSchema), variantId: variantSchema });

const MOST_CLIPS = 1000;
const TOO_MANY = 'a job has at most 1 000 clips';

const clipsSchema = v.object({
  /** The revision on which the change was made. */
  revision: v.pipe(v.number(), v.safeInteger('it must be a whole number')),
  clips: v.pipe(
    v.array(v.object({ id: v.pipe(v.string(), v.uuid()), sourceId: v.string(), settings: v.unknown() })),
    v.maxLength(MOST_CLIPS, TOO_MANY),
  ),
});

/** Clips that come after those that are there. */
const moreClipsSchema = v.object({
  clips: v.pipe(
    v.array(v.object({ sourceId: v.string(), settings: v.unknown() })),
    v.minLength(1),
    v.maxLength(MOST_CLIPS, TOO_MANY),
  ),
});

const clipView = ({ id, sourceId, settings }: Clip): ClipView => ({ id, sourceId, settings: parseSettings(settings) });

async function findJob(id: string): Promise<Job> {
  const job = await Job.findByPk(id);
  if (!job) throw notFound('job');
  return job;
}

/** Makes sure that clips can have these sources; an undo may want some that have been deleted meanwhile. */
async function wantSources(sourceIds: readonly string[], transaction: Transaction): Promise<void> {
  const ids = [...new Set(sourceIds)];
  if ((await Source.count({ where: { id: ids }, transaction })) !== ids.length) throw notFound('source');
  await restoreSources(ids, transaction);
}

function refuseDoubled(ids: readonly string[]): void {
  if (new Set(ids).size === ids.length) return;
  throw new Problem(400, 'bad-request', 'clips: two of them have the same id; give each its own.');
}

/** Clips of another job are not taken over. */
async function refuseForeign(jobId: string, ids: readonly string[], transaction: Transaction): Promise<void> {
  const foreign = await Clip.count({ where: { id: [...ids], jobId: { [Op.ne]: jobId } }, transaction });
  if (foreign > 0)
    throw new Problem(409, 'bad-request', 'clips: an id belongs to a clip of another job; give it a new one.');
}

const clipsOf = (jobId: string) => Clip.findAll({ where: { jobId }, order: [['position', 'ASC']] });

async function jobView(job: Job): Promise<JobView> {
  const clips = await clipsOf(job.id);
  const sources = await Source.findAll({ where: { id: [...new Set(clips.map((clip) => clip.sourceId))] } });
  const { id, title, targetId, variantId, revision } = job;
  return {
    id,
    title,
    targetId,
    variantId: variantId ?? null,
    revision,
    clips: clips.map(clipView),
    sources: sources.map(sourceView),
  };
}

async function jobSummary({ id, title, targetId, variantId }: Job): Promise<JobSummary> {
  const clips = await clipsOf(id);
  const delivery = await Delivery.findOne({ where: { jobId: id }, order: [['createdAt', 'DESC']] });
  const bytes = delivery ? ((await DeliveredFile.sum('bytes', { where: { deliveryId: delivery.id } })) ?? 0) : 0;
  return {
    id,
    title,
    targetId,
    variantId: variantId ?? null,
    clipCount: clips.length,
    clipNames: clips.map(({ settings }) => settings.name),
    delivery: delivery && { id: delivery.id, state: delivery.state, bytes },
  };
}

/** Jobs, their clips, and the start of a delivery. */
export const jobRoutes = (data: DataFolder, sequelize: Sequelize, builder: Builder) =>
  new Hono()
    .get('/', async (c) => {
      const jobs = await Job.findAll({ order: [['createdAt', 'ASC']] });
      return c.json(await Promise.all(jobs.map(jobSummary)));
    })
    .post('/', jsonBody(newJobSchema), async (c) => {
      const { title, targetId, variantId } = c.req.valid('json');
      const sheet = await findSheet(targetId);
      withVariant(sheet, variantId ?? null);
      const row = { id: randomUUID(), title, targetId: sheet.id, variantId: variantId ?? null };
      const job = await writing(sequelize, (transaction) => Job.create(row, { transaction }));
      return c.json(await jobView(job), 201);
    })
    .get('/:id', async (c) => c.json(await jobView(await findJob(c.req.param('id')))))
    .patch('/:id', jsonBody(jobChangeSchema), async (c) => {
      const job = await findJob(c.req.param('id'));
      const change = c.req.valid('json');
      withVariant(await findSheet(job.targetId), change.variantId ?? null);
      const fields = {
        ...(change.title === undefined ? {} : { title: change.title }),
        ...(change.variantId === undefined ? {} : { variantId: change.variantId }),
      };
      await writing(sequelize, (transaction) => job.update(fields, { transaction }));
      return c.json(await jobView(job));
    })
    .delete('/:id', async (c) => {
      const job = await findJob(c.req.param('id'));
      const deliveries = new Set<string>();
      for (const { id } of await Delivery.findAll({ where: { jobId: job.id } })) {
        await builder.cancel(id);
        deliveries.add(id);
      }
      await writing(sequelize, (transaction) => job.destroy({ transaction }));
      await removeStray(data.deliveries, (name) => deliveries.has(name));
      return c.body(null, 204);
    })
    .put('/:id/clips', jsonBody(clipsSchema), async (c) => {
      const { revision, clips } = c.req.valid('json');
      const job = await findJob(c.req.param('id'));
      const rows = clips.map(({ id, sourceId, settings }, position) => ({
        id,
        jobId: job.id,
        sourceId,
        position,
        settings: parseSettings(settings),
      }));
      refuseDoubled(rows.map(({ id }) => id));
      await writing(sequelize, async (transaction) => {
        await wantSources(
          rows.map(({ sourceId }) => sourceId),
          transaction,
        );
        await refuseForeign(
          job.id,
          rows.map(({ id }) => id),
          transaction,
        );
        const [changed] = await Job.update(
          { revision: revision + 1 },
          { where: { id: job.id, revision }, transaction },
        );
        if (changed !== 1) {
          throw new Problem(409, 'changed-elsewhere', 'This job was changed in another window; load it again.');
        }
        await Clip.destroy({ where: { jobId: job.id }, transaction });
        await Clip.bulkCreate(rows, { transaction });
      });
      return c.json(await jobView(await job.reload()));
    })
    .post('/:id/clips', jsonBody(moreClipsSchema), async (c) => {
      const { clips } = c.req.valid('json');
      const job = await findJob(c.req.param('id'));
      await writing(sequelize, async (transaction) => {
        await wantSources(
          clips.map(({ sourceId }) => sourceId),
          transaction,
        );
        const count = await Clip.count({ where: { jobId: job.id }, transaction });
        if (count + clips.length > MOST_CLIPS) throw new Problem(409, 'too-many-clips', TOO_MANY);
        const rows = clips.map(({ sourceId, settings }, i) => ({
          id: randomUUID(),
          jobId: job.id,
          sourceId,
          position: count + i,
          settings: parseSettings(settings),
        }));
        await Clip.bulkCreate(rows, { transaction });
        await job.increment('revision', { transaction });
      });
      return c.json(await jobView(await job.reload()), 201);
    })
    .get('/:id/deliveries', async (c) => {
      const job = await findJob(c.req.param('id'));
      const deliveries = await Delivery.findAll({ where: { jobId: job.id }, order: [['createdAt', 'DESC']] });
      return c.json(await Promise.all(deliveries.map((delivery) => deliveryView(delivery, builder))));
    })
    .post('/:id/deliveries', async (c) => {
      const job = await findJob(c.req.param('id'));
      const clips = await clipsOf(job.id);
      if (clips.length === 0) throw new Problem(409, 'no-clips', 'This job has no clips yet; drop audio on it first.');
      const order = {
        jobTitle: job.title,
        target: await sheetOfJob(job),
        clips: clips.map(({ id, sourceId, settings }) => ({ clipId: id, sourceId, settings: parseSettings(settings) })),
      };
      const row = { id: randomUUID(), jobId: job.id, state: 'building' as const, order };
      const delivery = await writing(sequelize, (transaction) => Delivery.create(row, { transaction }));
      builder.start(delivery);
      return c.json(await deliveryView(delivery, builder), 202);
    });
