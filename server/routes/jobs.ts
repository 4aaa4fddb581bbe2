import { randomUUID } from 'node:crypto';
import {
  CORE_VERSION,
  clipEntries,
  isOfFewPlaces,
  jobDocOf,
  jobEntries,
  MOST_CHANGED,
  MOST_CLIPS,
  readChange,
  safeStem,
  sheetFor,
} from '@tambur/core';
import { makeZip, predictLength } from 'client-zip';
import { Hono } from 'hono';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import type { Events } from '../answers/events.ts';
import { Problem } from '../answers/problem.ts';
import type { ChangesView, CopyView, JobSummary, JobView } from '../answers/views.ts';
import type { Builder } from '../builds/builder.ts';
import type { ExportReader } from '../exports/export-reader.ts';
import { jobExport } from '../exports/job-export.ts';
import { importJob } from '../exports/job-import.ts';
import { type Importer, shownName } from '../imports/importer.ts';
import { copyForDevice } from '../jobs/copies.ts';
import {
  changesAfter,
  createJob,
  findJob,
  historyOf,
  type JobChanges,
  newJob,
  sheetOfJob,
  stepsOf,
  TOO_MANY_CLIPS,
  workingJob,
} from '../jobs/jobs.ts';
import { findSheet } from '../jobs/sheets.ts';
import { Clip, Delivery, type Job, Source, writing } from '../models/index.ts';
import { jobs } from '../models/listings.ts';
import { sourceView } from '../shelf/shelf.ts';
import { type DataFolder, removeStray } from '../storage/data-folder.ts';
import { bodyOf, jsonBody, jsonText, lengthOf, query } from './body.ts';
import { deliveryView } from './deliveries.ts';
import { attachment } from './sources.ts';

const newJobSchema = v.strictObject({
  title: jobEntries.title,
  sheet: v.string(),
  variant: v.optional(v.nullable(v.string()), null),
  /** Fill the sheet's blanks of the level `job`. */
  values: v.optional(jobEntries.values, {}),
});

const revision = v.pipe(v.number(), v.safeInteger('it must be a whole number'), v.minValue(0));

const isObject = (value: unknown) => typeof value === 'object' && value !== null && !Array.isArray(value);

const changeSchema = v.strictObject({
  /** The revision that the change was made on. */
  revision,
  /** Its entries are read one by one afterwards. */
  change: v.pipe(
    v.custom<Readonly<Record<string, unknown>>>(isObject, 'it must be an object'),
    v.check(isOfFewPlaces, `it changes more than ${MOST_CHANGED} places at once`),
  ),
});

/** Clips that come after those that are there. */
const moreClipsSchema = v.strictObject({
  clips: v.pipe(
    v.array(v.strictObject({ name: clipEntries.name, pieces: clipEntries.pieces })),
    v.minLength(1),
    v.maxLength(MOST_CLIPS, TOO_MANY_CLIPS),
  ),
});

const afterSchema = v.object({
  after: v.pipe(v.string(), v.regex(/^\d{1,15}$/, 'it must be a revision'), v.transform(Number)),
});

/** What pages need to know of the sources of a job's clips. */
async function sourcesOf(jobId: string) {
  const clips = await Clip.findAll({ where: { jobId }, attributes: ['sourceId'], group: ['sourceId'], raw: true });
  return (await Source.findAll({ where: { id: clips.map(({ sourceId }) => sourceId) } })).map(sourceView);
}

const jobView = async (job: Job): Promise<JobView> => ({
  id: job.id,
  revision: job.revision,
  history: await historyOf(job.id),
  job: await workingJob(job),
  sources: await sourcesOf(job.id),
});

/** The record of a delivery that is to be made: the job, its sheet and its sources as they are now. */
async function recordOf(job: Job): Promise<Delivery['record']> {
  const working = await workingJob(job);
  const ids = new Set(working.clips.flatMap(({ pieces }) => pieces.map(({ source }) => source)));
  const sources = await Source.findAll({ where: { id: [...ids] } });
  return {
    format: 2,
    id: randomUUID(),
    core: CORE_VERSION,
    job: jobDocOf(working),
    sheet: await sheetOfJob(working),
    sources: Object.fromEntries(
      sources.map(({ id, sha256, reading, track, facts }) => [id, { sha256, reading: reading ?? null, track, facts }]),
    ),
    findings: [],
  };
}

interface JobParts {
  readonly data: DataFolder;
  readonly sequelize: Sequelize;
  readonly changes: JobChanges;
  readonly builder: Builder;
  readonly importer: Importer;
  readonly exportReader: ExportReader;
  readonly events: Events;
}

/** Entries of an export are as old as each other, so that the same job gives the same bytes. */
const EXPORT_DATE = new Date(2000, 0, 1);

/** Jobs, their changes, what goes out of them and comes in, and the start of a delivery. */
export const jobRoutes = ({ data, sequelize, changes, builder, importer, exportReader, events }: JobParts) =>
  new Hono()
    .get('/', async (c) => jsonText<JobSummary[]>(c, await jobs()))
    .post('/', jsonBody(newJobSchema), async (c) => {
      const { title, sheet: sheetId, variant, values } = c.req.valid('json');
      const sheet = await findSheet(sheetId);
      sheetFor(sheet, variant, values);
      const fresh = newJob(title, sheet, variant, values);
      const job = await writing(sequelize, (transaction) => createJob(fresh, transaction));
      return c.json(await jobView(job), 201);
    })
    .post(
      '/:id/copies',
      jsonBody(v.strictObject({ sheet: v.string(), variant: v.nullable(v.string()) })),
      async (c) => {
        const job = await findJob(c.req.param('id'));
        const { sheet, variant } = c.req.valid('json');
        const { copy, left } = await copyForDevice(sequelize, job, sheet, variant);
        const view: CopyView = { id: copy.id, left };
        return c.json(view, 201);
      },
    )
    .post('/import', query(v.object({ name: v.string() })), async (c) => {
      const name = shownName(c.req.valid('query').name);
      const options = { length: lengthOf(c), signal: c.req.raw.signal };
      const job = await importJob({ data, sequelize, importer, exportReader }, name, bodyOf(c), options);
      events.send({ type: 'shelf' });
      return c.json(await jobView(job), 201);
    })
    .get('/:id/export', async (c) => {
      const job = await findJob(c.req.param('id'));
      const entries = (await jobExport(job, data)).map((entry) => ({
        name: entry.path,
        size: entry.bytes,
        lastModified: EXPORT_DATE,
        open: entry.open,
      }));
      async function* contents() {
        for (const { open, ...entry } of entries) yield { ...entry, input: open() };
      }
      return c.body(makeZip(contents()), 200, {
        'Content-Type': 'application/zip',
        'Content-Length': String(predictLength(entries)),
        'Content-Disposition': attachment(`${safeStem(job.title, '-')}.tambur.zip`),
      });
    })
    .get('/:id', async (c) => c.json(await jobView(await findJob(c.req.param('id')))))
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
    .get('/:id/changes', query(afterSchema), async (c) => {
      const job = await findJob(c.req.param('id'));
      const view: ChangesView = {
        revision: job.revision,
        history: await historyOf(job.id),
        changes: await changesAfter(job, c.req.valid('query').after),
        sources: await sourcesOf(job.id),
      };
      return c.json(view);
    })
    .post('/:id/changes', jsonBody(changeSchema), async (c) => {
      const { revision: base, change } = c.req.valid('json');
      const jobId = c.req.param('id');
      const revision = await changes.change(jobId, base, readChange(change));
      return c.json({ revision, history: await historyOf(jobId) });
    })
    .post('/:id/undo', async (c) => c.json({ revision: await changes.step(c.req.param('id'), 'undo') }))
    .post('/:id/redo', async (c) => c.json({ revision: await changes.step(c.req.param('id'), 'redo') }))
    .get('/:id/steps', async (c) => c.json(await stepsOf((await findJob(c.req.param('id'))).id)))
    .post('/:id/steps', jsonBody(v.strictObject({ last: revision })), async (c) => {
      await changes.goTo(c.req.param('id'), c.req.valid('json').last);
      return c.body(null, 204);
    })
    .post('/:id/clips', jsonBody(moreClipsSchema), async (c) => {
      const jobId = c.req.param('id');
      await changes.addClips(jobId, c.req.valid('json').clips);
      return c.json(await jobView(await findJob(jobId)), 201);
    })
    .get('/:id/deliveries', async (c) => {
      const job = await findJob(c.req.param('id'));
      const deliveries = await Delivery.findAll({ where: { jobId: job.id }, order: [['createdAt', 'DESC']] });
      return c.json(await Promise.all(deliveries.map((delivery) => deliveryView(delivery, builder))));
    })
    .post('/:id/deliveries', async (c) => {
      const job = await findJob(c.req.param('id'));
      const record = await recordOf(job);
      if (record.job.clips.length === 0) {
        throw new Problem(409, 'no-clips', 'This job has no clips yet; drop audio on it first.');
      }
      const row = { id: record.id, jobId: job.id, state: 'building' as const, record };
      const delivery = await writing(sequelize, (transaction) => Delivery.create(row, { transaction }));
      builder.start(delivery);
      return c.json(await deliveryView(delivery, builder), 202);
    });
