import { join } from 'node:path';
import { type Artifact, noteById, noteFiles, placeWords, safeStem, soundsOf } from '@tambur/core';
import { makeZip, predictLength } from 'client-zip';
import { Hono } from 'hono';
import * as v from 'valibot';
import { notFound, Problem } from '../answers/problem.ts';
import type { ArtifactView, DeliveryView } from '../answers/views.ts';
import { type Builder, filesOf, mean } from '../builds/builder.ts';
import { artifactsOf, recordWithFiles } from '../jobs/delivery-record.ts';
import { Delivery } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { query, wholeNumber } from './body.ts';
import { fileStream, requireFiles } from './file-stream.ts';
import { attachment } from './sources.ts';

/** What is said of files that are no clip's own. */
const TITLES = { list: 'List file', pack: 'All sounds', sound: 'Sound' } as const;

export async function deliveryView(delivery: Delivery, builder: Builder): Promise<DeliveryView> {
  const { id, jobId, state, error, record, createdAt } = delivery;
  const names = new Map(record.job.clips.map((clip) => [clip.id, clip.name]));
  const files = filesOf(record);
  const whole = await recordWithFiles(delivery);
  const sounds = soundsOf(whole);
  const artifactView = (artifact: Artifact): ArtifactView => {
    const slots = sounds.filter((sound) => sound.artifact === artifact).flatMap((sound) => sound.slots);
    const clips = artifact.parts.map(({ clip }) => names.get(clip) ?? '');
    return {
      ...artifact,
      title: (artifact.role === 'sound' && clips[0]) || TITLES[artifact.role],
      clips,
      slots,
      places: slots.flatMap((number) => placeWords(record.sheet, number) ?? []),
    };
  };
  const parts = builder.progressOf(id) ?? [];
  return {
    id,
    jobId,
    jobTitle: record.job.title,
    state,
    error: error ?? null,
    createdAt: createdAt.toISOString(),
    total: files.length,
    progress: state === 'done' ? 1 : mean(parts),
    rows:
      state === 'building' ? files.map(({ clip }, i) => ({ title: names.get(clip) ?? '', done: parts[i] ?? 0 })) : [],
    artifacts: whole.artifacts.map(artifactView),
    findings: record.findings,
    sheet: record.sheet,
  };
}

async function findDelivery(id: string): Promise<Delivery> {
  const delivery = await Delivery.findByPk(id);
  if (!delivery) throw notFound('delivery');
  return delivery;
}

async function findFinished(id: string): Promise<Delivery> {
  const delivery = await findDelivery(id);
  if (delivery.state !== 'done') {
    throw new Problem(
      409,
      'not-built',
      'This delivery is not finished, so there is nothing to download; build it again.',
    );
  }
  return delivery;
}

/** Bytes of a file that one request gives, where it asks for some. */
const LARGEST_RANGE = 1 << 22;

const rangeSchema = v.object({ from: v.optional(wholeNumber), to: v.optional(wholeNumber) });

/** What was built: its record, single files, and the whole set as a ZIP. */
export const deliveryRoutes = (data: DataFolder, builder: Builder) =>
  new Hono()
    .get('/:id', async (c) => c.json(await deliveryView(await findDelivery(c.req.param('id')), builder)))
    .post('/:id/cancel', async (c) => {
      const delivery = await findDelivery(c.req.param('id'));
      await builder.cancel(delivery.id);
      return c.json(await deliveryView(await delivery.reload(), builder));
    })
    .post('/:id/again', async (c) =>
      c.json(await builder.buildAgain(await findFinished(c.req.param('id')), c.req.raw.signal)),
    )
    .get('/:id/notes/:note', async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      const note = noteById(c.req.param('note'));
      return c.body(note.text(await recordWithFiles(delivery)), 200, {
        'Content-Type': 'text/plain; charset=utf-8',
        'Content-Disposition': attachment(note.path),
      });
    })
    .get('/:id/files/:name', query(rangeSchema), async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      // Only names that stand in the record are looked up on the disk.
      const file = (await artifactsOf(delivery.id)).find(({ path }) => path === c.req.param('name'));
      if (!file) throw notFound('file');
      const { from, to } = c.req.valid('query');
      if (from !== undefined && to !== undefined) {
        if (to <= from || to > file.bytes || to - from > LARGEST_RANGE) {
          throw new Problem(400, 'bad-request', `from, to: there are ${file.bytes} bytes; ask for a range of them.`);
        }
        const part = await fileStream(join(data.delivery(delivery.id), file.path), file.path, { from, to });
        return c.body(part, 200, {
          'Content-Type': 'application/octet-stream',
          'Content-Length': String(to - from),
        });
      }
      return c.body(await fileStream(join(data.delivery(delivery.id), file.path), file.path), 200, {
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(file.bytes),
        'Content-Disposition': attachment(file.path),
      });
    })
    .get('/:id/zip', query(v.object({ notes: v.optional(v.string(), '') })), async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      const record = await recordWithFiles(delivery);
      const notes = noteFiles(record, c.req.valid('query').notes.split(',').filter(Boolean)).map(({ path, text }) => ({
        name: path,
        bytes: new TextEncoder().encode(text),
      }));
      // The same delivery gives the same bytes.
      const lastModified = delivery.createdAt;
      const entries = [
        ...record.artifacts.map(({ path, bytes }) => ({ name: path, size: bytes, lastModified })),
        ...notes.map(({ name, bytes }) => ({ name, size: bytes.length, lastModified })),
      ];
      const pathOf = (name: string) => join(data.delivery(delivery.id), name);
      await requireFiles(record.artifacts.map(({ path, bytes }) => ({ path: pathOf(path), name: path, bytes })));
      const textOf = new Map(notes.map(({ name, bytes }) => [name, bytes]));
      async function* contents() {
        for (const entry of entries) {
          const input = textOf.get(entry.name) ?? (await fileStream(pathOf(entry.name), entry.name));
          yield { ...entry, input };
        }
      }
      return c.body(makeZip(contents()), 200, {
        'Content-Type': 'application/zip',
        'Content-Length': String(predictLength(entries)),
        'Content-Disposition': attachment(`${safeStem(delivery.record.job.title, '-')}.zip`),
      });
    });
