import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { newClip, parseSettings, ranksAfter, sheetFor, targetOf, withSettings } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import type { Importer } from '../imports/importer.ts';
import { createJob, newJob } from '../jobs/jobs.ts';
import { Clip, writing } from '../models/index.ts';

/** demo.json: the jobs of the made-up scenario; `file` names a sound beside it. */
const demoSchema = v.object({
  /** What is on the shelf and in no job. */
  shelf: v.array(
    v.object({
      file: v.string(),
      reading: v.optional(v.object({ encoding: v.string(), sampleRate: v.number(), channels: v.number() })),
    }),
  ),
  jobs: v.array(
    v.object({
      title: v.string(),
      targetId: v.string(),
      variantId: v.optional(v.string()),
      clips: v.array(v.looseObject({ file: v.string(), name: v.string() })),
    }),
  ),
});

/**
 * Fills an empty data folder with the demo scenario. The jobs appear together, so that a stop in between is mended by
 * doing it again.
 */
export async function seedDemo(folder: string, importer: Importer, sequelize: Sequelize): Promise<void> {
  const demo = v.parse(demoSchema, JSON.parse(await readFile(join(folder, 'demo.json'), 'utf8')));
  const inJobs = [...new Set(demo.jobs.flatMap((job) => job.clips.map((clip) => clip.file)))];
  const sources = new Map(
    await Promise.all(
      [...demo.shelf, ...inJobs.map((file) => ({ file, reading: undefined }))].map(async ({ file, reading }) => {
        const source = await importer.take(file, createReadStream(join(folder, 'sounds', file)), { reading });
        return [file, source.id] as const;
      }),
    ),
  );
  await writing(sequelize, async (transaction) => {
    for (const { title, targetId, variantId, clips } of demo.jobs) {
      const sheet = targetOf(targetId);
      sheetFor(sheet, variantId ?? null, {});
      const job = await createJob(newJob(title, sheet, variantId ?? null), transaction);
      const ranks = ranksAfter([], clips.length);
      const rows = clips.map(({ file, name, ...settings }, i) => {
        const sourceId = sources.get(file) ?? '';
        const plain = newClip(randomUUID(), name, sourceId);
        const clip = withSettings(plain, parseSettings({ name, ...settings }));
        return { id: clip.id, jobId: job.id, sourceId, rank: ranks[i] ?? '', clip };
      });
      await Clip.bulkCreate(rows, { transaction });
    }
  });
}
